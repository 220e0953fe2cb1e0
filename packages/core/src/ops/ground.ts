import { TopologyError } from '../errors';
import { besidePlane, isOnPlane, meanPoint, ontoPlane, planeDistance, type MirrorPlane, type Vec3 } from '../math';
import { isReleased, NONE, type PolyMesh } from '../mesh';
import type { Sectors } from './solid/sectors';

/** A form that points stick to: the sculpt, a kept copy, or the piece's own surface as it was. */
export interface Form {
  /**
   * The nearest point of the form. `key` names who asks (a vertex), so that an implementation may begin where that one
   * was found last.
   */
  closest(p: Vec3, key?: number): { point: Vec3; normal: Vec3 };
  /** Where a ray meets the form first; null where it does not. Absent for forms that have no surface. */
  ray?(from: Vec3, direction: Vec3): Vec3 | null;
  /** The line in which a plane cuts the form, nearest to a point; null where it misses. */
  section?(near: Vec3, normal: Vec3): { points: Vec3[]; closed: boolean } | null;
  /** lines on the form that edges keep to: the borders of its regions */
  lines?: LinesOnForm | null;
}

export interface LinesOnForm {
  readonly lines: readonly { points: readonly Vec3[]; closed: boolean }[];
  /** The nearest point of all lines no further away than `within`; null where there is none. */
  nearest(p: Vec3, within: number): Vec3 | null;
}

/**
 * What the runs of one drag share: each starts from the same mesh and selection, so that whatever does not depend on the
 * settings is worked out once. What is kept may have a `delete`, called when the drag ends.
 */
export class Memo {
  private readonly known = new Map<string, unknown>();

  of<T>(key: string, make: () => T): T {
    if (!this.known.has(key)) this.known.set(key, make());
    return this.known.get(key) as T;
  }
  clear(): void {
    for (const value of this.known.values()) {
      const kept = value as { delete?: () => void } | null;
      // a Map or a Set has a `delete` of its own, which takes a key
      if (kept && kept.delete instanceof Function && kept.delete.length === 0) kept.delete();
    }
    this.known.clear();
  }
}

/** What `make` gives, worked out once in a drag. The key names what of the settings it depends on. */
export const once = <T>({ memo }: Ground, key: string, make: () => T): T => (memo ? memo.of(key, make) : make());

/** The sectors that the mesh is one of, and how near to each other points of their seam join, file units. */
export interface SectorGround {
  sectors: Sectors;
  within: number;
}

/** What an operator works on besides the mesh. */
export interface Ground {
  /** the symmetry plane: the mesh holds one half, vertices exactly on the plane are its midline */
  plane: MirrorPlane | null;
  form: Form | null;
  /** what is laid near the seam lands on it; absent: the mesh is no sector */
  sectors?: SectorGround | null;
  /** why nothing may be changed, in words; absent: everything may */
  locked?: string | null;
  /** within one drag: what earlier runs worked out about the mesh they all start from */
  memo?: Memo;
  /** hears how far slow work is, in [0, 1] */
  tell?: (done: number) => void;
}
export const BARE_GROUND: Ground = { plane: null, form: null };

export const onMidline = (mesh: PolyMesh, v: number, { plane }: Ground): boolean =>
  plane !== null && isOnPlane(mesh.point(v), plane);

/** On which side of the plane the stored half lies, −1 or 1: the first vertex off it decides. Null where there is none. Cost: up to that vertex. */
export function keptSide(mesh: PolyMesh, plane: MirrorPlane): number | null {
  for (const v of mesh.vertices()) {
    const d = planeDistance(mesh.point(v), plane);
    if (d !== 0) return Math.sign(d);
  }
  return null;
}

/** Whether both ends of a border edge lie on the plane: its other side is the mirrored half, not open air. */
export function isSeam(mesh: PolyMesh, h: number, ground: Ground): boolean {
  return (
    ground.plane !== null &&
    onMidline(mesh, mesh.origin(h), ground) &&
    onMidline(mesh, mesh.target(h), ground) &&
    mesh.isBorderEdge(h >> 1)
  );
}

/**
 * Where a vertex that was at `from` ends up when it is sent to `to`: on the form, a midline vertex on the plane still, any
 * other on its own side of it, short of the plane unless it `joins` the midline by being sent across.
 */
export function settledPlace(from: Vec3, to: Vec3, { plane, form }: Ground, key?: number, joins = false): Vec3 {
  const midline = plane !== null && isOnPlane(from, plane);
  let p = form ? form.closest(to, key).point : to;
  if (!plane) return p;
  if (!midline) return keptOnSide(from, p, plane, joins);
  p = ontoPlane(p, plane);
  // the form's nearest point leaves the plane where the form is not square to it: go back and forth
  for (let i = 0; form && i < 2; i++) p = ontoPlane(form.closest(p, key).point, plane);
  return p;
}

/** Of its distance from the plane, what a point keeps that was sent across. */
const SHORT_OF = 0.05;

function keptOnSide(from: Vec3, to: Vec3, plane: MirrorPlane, joins: boolean): Vec3 {
  const [was, is] = [planeDistance(from, plane), planeDistance(to, plane)];
  if (was * is > 0) return to;
  return joins ? ontoPlane(to, plane) : besidePlane(to, plane, was * SHORT_OF);
}

/** The ground of one vertex: a released one sticks to nothing. */
export const groundOf = (mesh: PolyMesh, v: number, ground: Ground): Ground =>
  ground.form && isReleased(mesh, v) ? { ...ground, form: null } : ground;

/** Moves a vertex by the ground's rules. */
export function settle(mesh: PolyMesh, v: number, to: Vec3, ground: Ground): void {
  mesh.setPoint(v, settledPlace(mesh.point(v), to, groundOf(mesh, v, ground), v));
}

/** Where a new vertex between old ones goes: on the form, on their side, and on the midline where all of them are. */
export function newPlace(mesh: PolyMesh, p: Vec3, parents: readonly number[], ground: Ground): Vec3 {
  const { plane, form } = ground;
  if (!plane || parents.length === 0) return form ? form.closest(p).point : p;
  const points = parents.map((v) => mesh.point(v));
  if (points.every((q) => isOnPlane(q, plane))) return settledPlace(ontoPlane(p, plane), ontoPlane(p, plane), ground);
  return settledPlace(meanPoint(points), p, ground);
}

/**
 * Refuses (OFF_MIDLINE) what the open transaction made, when the mirrored half could not be joined to it any more: a face that
 * lies flat in the midline, an edge in it with faces on both sides, a point on it with faces all round or in several
 * fans. Cost: the rows that were touched, with symmetry on only.
 */
export function checkMidline(mesh: PolyMesh, ground: Ground): void {
  if (!ground.plane) return;
  for (const v of touchedOnMidline(mesh, ground)) {
    const halves = mesh.vertexHalves(v);
    const faces = halves.map((h) => mesh.face(h)).filter((f) => f !== NONE);
    const fans = halves.filter((h) => mesh.face(h) === NONE && mesh.face(h ^ 1) !== NONE).length;
    const isFull = (h: number): boolean => onMidline(mesh, mesh.target(h), ground) && mesh.face(h) !== NONE && mesh.face(h ^ 1) !== NONE; // prettier-ignore
    const isFlat = (f: number): boolean => mesh.faceVertices(f).every((w) => onMidline(mesh, w, ground));
    if ((faces.length > 0 && fans !== 1) || halves.some(isFull) || faces.some(isFlat))
      throw new TopologyError('OFF_MIDLINE', 'This would fold faces into the midline, where the mirrored half could not be joined. Keep clear of it; if both halves are there already, turn symmetry off or delete one of them.', { vertices: [v] }); // prettier-ignore
  }
}

function touchedOnMidline(mesh: PolyMesh, ground: Ground): Set<number> {
  const found = new Set<number>();
  const look = (v: number): void => {
    if (v !== NONE && mesh.hasVertex(v) && onMidline(mesh, v, ground)) found.add(v);
  };
  for (const { column, rows } of mesh.openRows()) {
    if (column === 'position') for (const v of rows) look(v);
    else if (column === 'halfFace' || column === 'halfOrigin')
      for (const h of rows) if (mesh.hasEdge(h >> 1)) look(mesh.origin(h));
  }
  return found;
}
