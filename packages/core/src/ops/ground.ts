import { isOnPlane, ontoPlane, planeDistance, type MirrorPlane, type Vec3 } from '../math';
import type { PolyMesh } from '../mesh';

/** A form that points stick to: the sculpt, a kept copy, or the piece's own surface as it was. */
export interface Form {
  /**
   * The nearest point of the form. `key` names who asks (a vertex), so that an implementation may begin where that one
   * was found last.
   */
  closest(p: Vec3, key?: number): { point: Vec3; normal: Vec3 };
}

/** What an operator works on besides the mesh. */
export interface Ground {
  /** the symmetry plane: the mesh holds one half, vertices exactly on the plane are its midline */
  plane: MirrorPlane | null;
  form: Form | null;
}
export const BARE_GROUND: Ground = { plane: null, form: null };

export const onMidline = (mesh: PolyMesh, v: number, { plane }: Ground): boolean =>
  plane !== null && isOnPlane(mesh.point(v), plane);

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
 * Where a vertex that was at `from` ends up when it is sent to `to`: on the form, a midline vertex on the plane still,
 * any other on its own side of it.
 */
export function settledPlace(from: Vec3, to: Vec3, { plane, form }: Ground, key?: number): Vec3 {
  const midline = plane !== null && isOnPlane(from, plane);
  let p = form ? form.closest(to, key).point : to;
  if (!plane) return p;
  if (!midline) return keptOnSide(from, p, plane);
  p = ontoPlane(p, plane);
  // the form's nearest point leaves the plane where the form is not square to it: go back and forth
  for (let i = 0; form && i < 2; i++) p = ontoPlane(form.closest(p, key).point, plane);
  return p;
}

function keptOnSide(from: Vec3, to: Vec3, plane: MirrorPlane): Vec3 {
  const side = Math.sign(planeDistance(from, plane));
  return Math.sign(planeDistance(to, plane)) === -side ? ontoPlane(to, plane) : to;
}

/** Moves a vertex by the ground's rules. */
export function settle(mesh: PolyMesh, v: number, to: Vec3, ground: Ground): void {
  mesh.setPoint(v, settledPlace(mesh.point(v), to, ground, v));
}

/** Where a new vertex between old ones goes: on the form, and on the midline where all of them are. */
export function newPlace(mesh: PolyMesh, p: Vec3, parents: readonly number[], ground: Ground): Vec3 {
  const { plane, form } = ground;
  if (plane && parents.length > 0 && parents.every((v) => isOnPlane(mesh.point(v), plane)))
    return settledPlace(ontoPlane(p, plane), ontoPlane(p, plane), ground);
  return form ? form.closest(p).point : p;
}
