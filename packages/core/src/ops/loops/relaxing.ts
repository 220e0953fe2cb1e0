import {
  alongCurve,
  axisIndex,
  distance,
  dot,
  isOnPlane,
  length,
  mirrored,
  normalize,
  sub,
  type MirrorPlane,
  type Vec3,
} from '../../math';
import { isReleased, NONE, vertexNormal, type PolyMesh } from '../../mesh';
import { onMidline, settledPlace, type Ground } from '../ground';
import { Features, type Freedom } from './features';

export interface RelaxOptions {
  /** 'even' brings all edges to one length, 'keep' keeps the ratio of their lengths */
  density: 'even' | 'keep';
  /** move on the surface only; else straight to the middle of the neighbours */
  tangential: boolean;
  /** borders, hard edges and region borders stay as they are instead of sliding along themselves */
  holdLines: boolean;
}

/** Corners at least this square before a step must stay so; below it a face counts as folded. Sine of the corner. */
const LEAST_CORNER = 0.02;
const HALVINGS = 6;

/**
 * One step of evening points out: each weighted vertex goes towards the middle of its neighbours, on the surface or
 * along its line, and back onto the form. Where a corner would flip, the step of that face's points is halved until none
 * does. All points move at once, so that a symmetric mesh stays symmetric. Returns the greatest move.
 * Cost: the vertices and the faces round them.
 */
export function relaxStep(
  mesh: PolyMesh,
  weights: ReadonlyMap<number, number>,
  options: RelaxOptions,
  ground: Ground,
): number {
  const ids = [...weights.keys()];
  const starts = ids.map((v) => mesh.point(v));
  const features = new Features(mesh, ground);
  const targets = ids.map((v, i) =>
    relaxedPlace(mesh, v, starts[i], weights.get(v) as number, features, options, ground),
  );
  const guard = new FoldGuard(mesh, ids);
  const step = new Float64Array(ids.length).fill(1);
  for (let round = 0; round <= HALVINGS; round++) {
    ids.forEach((v, i) => mesh.setPoint(v, blend(starts[i], targets[i], step[i])));
    const folded = guard.folded();
    if (folded.size === 0) break;
    ids.forEach((v, i) => {
      if (folded.has(v)) step[i] = round === HALVINGS - 1 ? 0 : step[i] / 2;
    });
  }
  // points set to nothing at the last may have left a neighbour alone in a fold: all of those go back
  for (let folded = guard.folded(); folded.size > 0; folded = guard.folded()) {
    let back = 0;
    ids.forEach((v, i) => {
      if (folded.has(v) && step[i] !== 0) {
        step[i] = 0;
        mesh.setPoint(v, starts[i]);
        back++;
      }
    });
    if (back === 0) break;
  }
  let most = 0;
  ids.forEach((v, i) => (most = Math.max(most, length(sub(mesh.point(v), starts[i])))));
  return most;
}

const blend = (a: Vec3, b: Vec3, t: number): Vec3 =>
  t === 1 ? b : t === 0 ? a : [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];

function relaxedPlace(
  mesh: PolyMesh,
  v: number,
  p: Vec3,
  weight: number,
  features: Features,
  options: RelaxOptions,
  ground: Ground,
): Vec3 {
  if (isReleased(mesh, v)) return p;
  const freedom = features.freedom(v);
  if (freedom.kind === 'corner' || (freedom.kind === 'line' && options.holdLines)) return p;
  const ontoLine = (q: Vec3): Vec3 => features.lineOfForm(v, q) ?? q;
  if (freedom.kind === 'line' && options.tangential)
    return ontoLine(settledPlace(p, alongLine(mesh, p, freedom, weight), ground, v));
  const q = middleOf(
    mesh,
    v,
    p,
    options.density,
    freedom,
    ground.plane && onMidline(mesh, v, ground) ? ground.plane : null,
  );
  let d = sub(q, p);
  if (options.tangential) {
    const n = normalAt(mesh, v, ground);
    const lift = dot(d, n);
    d = [d[0] - n[0] * lift, d[1] - n[1] * lift, d[2] - n[2] * lift];
  }
  return settledPlace(p, [p[0] + d[0] * weight, p[1] + d[1] * weight, p[2] + d[2] * weight], ground, v);
}

/** The normal of a vertex; on the midline that of both halves together. */
function normalAt(mesh: PolyMesh, v: number, ground: Ground): Vec3 {
  const n = vertexNormal(mesh, v);
  if (!ground.plane || !onMidline(mesh, v, ground)) return n;
  const k = axisIndex(ground.plane.axis);
  return normalize([k === 0 ? 0 : n[0], k === 1 ? 0 : n[1], k === 2 ? 0 : n[2]]);
}

/** Half-way between the two neighbours on a line, on the curve through them. */
function alongLine(mesh: PolyMesh, p: Vec3, { along: [u, w] }: Freedom & { kind: 'line' }, weight: number): Vec3 {
  const a = mesh.point(u),
    b = mesh.point(w);
  const [da, db] = [length(sub(p, a)), length(sub(p, b))];
  const shift = ((db - da) / 2) * weight;
  if (shift > 0) return db > 0 ? alongCurve(a, p, b, null, Math.min(1, shift / db)) : p;
  return da > 0 ? alongCurve(b, p, a, null, Math.min(1, -shift / da)) : p;
}

function middleOf(
  mesh: PolyMesh,
  v: number,
  p: Vec3,
  density: RelaxOptions['density'],
  freedom: Freedom,
  plane: MirrorPlane | null,
): Vec3 {
  const sum = [0, 0, 0];
  let total = 0;
  const take = (q: Vec3): void => {
    const l = density === 'keep' ? Math.max(1e-12, distance(p, q)) : 1;
    for (let k = 0; k < 3; k++) sum[k] += q[k] / l;
    total += 1 / l;
  };
  if (freedom.kind === 'line') freedom.along.forEach((w) => take(mesh.point(w)));
  else
    for (const h of mesh.vertexHalves(v)) {
      const q = mesh.point(mesh.target(h));
      take(q);
      if (plane && !isOnPlane(q, plane)) take(mirrored(q, plane));
    }
  return total > 0 ? [sum[0] / total, sum[1] / total, sum[2] / total] : p;
}

/** Watches the corners of the faces round some vertices: which of them turned over since it was made. */
export class FoldGuard {
  private readonly corners: number[] = [];
  private readonly normals: number[] = [];

  constructor(
    private readonly mesh: PolyMesh,
    vertices: Iterable<number>,
  ) {
    const faces = new Set<number>();
    for (const v of vertices) for (const h of mesh.vertexHalves(v)) if (mesh.face(h) !== NONE) faces.add(mesh.face(h));
    for (const f of faces) {
      const halves = mesh.faceHalves(f);
      const n = halves.length;
      const crosses = halves.map((h) => this.cross(mesh.origin(mesh.prev(h)), mesh.origin(h), mesh.target(h)));
      const normal = normalize(crosses.reduce((s, c): Vec3 => [s[0] + c.at[0], s[1] + c.at[1], s[2] + c.at[2]], [0, 0, 0] as Vec3)); // prettier-ignore
      for (let i = 0; i < n; i++) {
        if (dot(crosses[i].at, normal) <= LEAST_CORNER * crosses[i].size) continue;
        const h = halves[i];
        this.corners.push(mesh.origin(mesh.prev(h)), mesh.origin(h), mesh.target(h));
        this.normals.push(normal[0], normal[1], normal[2]);
      }
    }
  }

  /** The vertices of corners that have turned over. */
  folded(): Set<number> {
    const found = new Set<number>();
    const { corners, normals } = this;
    for (let i = 0; i < corners.length; i += 3) {
      const { at, size } = this.cross(corners[i], corners[i + 1], corners[i + 2]);
      if (at[0] * normals[i] + at[1] * normals[i + 1] + at[2] * normals[i + 2] > LEAST_CORNER * size) continue;
      for (let k = 0; k < 3; k++) found.add(corners[i + k]);
    }
    return found;
  }

  /** Cross product of the edges at b, and the product of their lengths. */
  private cross(a: number, b: number, c: number): { at: Vec3; size: number } {
    const p = this.mesh.position.data;
    const ux = p[3 * c] - p[3 * b], uy = p[3 * c + 1] - p[3 * b + 1], uz = p[3 * c + 2] - p[3 * b + 2]; // prettier-ignore
    const wx = p[3 * a] - p[3 * b], wy = p[3 * a + 1] - p[3 * b + 1], wz = p[3 * a + 2] - p[3 * b + 2]; // prettier-ignore
    return {
      at: [uy * wz - uz * wy, uz * wx - ux * wz, ux * wy - uy * wx],
      size: Math.sqrt((ux * ux + uy * uy + uz * uz) * (wx * wx + wy * wy + wz * wz)),
    };
  }
}
