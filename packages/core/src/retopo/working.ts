import type { MirrorPlane } from '../math';
import type { SculptSurface } from '../surface';
import { collapse, mayCollapse } from './form/collapse';
import { FacingForm } from './form/FacingForm';
import { moveSoundly, THIN, turnsAway } from './form/moveSoundly';
import { isOnCut } from './form/onCut';
import { alongRim, rimEnd } from './form/rims';
import { faceForm, pinch } from './form/surgery';
import { nextHalf, prevHalf, type TriMesh } from './form/TriMesh';
import { openNarrowCorners } from './field/narrowCorners';
import { lineHalves, onCurve, type Curve } from './lines/lines';

/** Rounds of splitting, collapsing, turning and evening out. */
const ROUNDS = 5;
/** A triangle may turn by no more than this in one change; cosine. */
const TURN = 0.35;
const LADDER = 1.6;
/** Passes of splitting: an edge is halved about every other one. */
const MOST_SPLITS = 32;
/** No half-edge on the other side. */
const NO_HALF = -1;

/**
 * Edges below `wanted` drawn together, shortest lengths first in a ladder, under the link condition: handles, tunnels and parts of the surface stay,
 * whatever their size. Lines are drawn together along themselves only, their corners never; nothing is drawn flat into the mirror `plane`. Cost: the triangles, a few times.
 */
export function reduce(mesh: TriMesh, corners: Uint8Array, wanted: number, plane: MirrorPlane | null): void {
  faceForm(mesh);
  let sum = 0,
    n = 0;
  for (let h = 0; h < 3 * mesh.triangles; h += 7)
    if (mesh.from[h] >= 0 && mesh.isAlive(Math.floor(h / 3))) {
      sum += Math.sqrt(mesh.squaredLength(h));
      n++;
    }
  const steps: number[] = [];
  for (let l = wanted; l > (0.6 * sum) / Math.max(1, n); l /= LADDER) steps.unshift(l);
  for (const l of steps) collapseBelow(mesh, corners, () => l, 1.5, plane);
}

/**
 * Remeshes to edges of about the `lengths` wanted at each vertex on the form (Botsch and Kobbelt 2004), points of lines kept on their curves, and none across the mirror `plane`'s border. Cost:
 * rounds times triangles, and a closest point for each vertex.
 */
export function evenTriangles(
  mesh: TriMesh,
  corners: Uint8Array,
  curves: readonly Curve[],
  surface: SculptSurface,
  lengths: Float64Array,
  plane: MirrorPlane | null,
): Uint8Array {
  const form = new FacingForm(surface);
  const kept = [...corners];
  const wanted = [...lengths];
  const at = (h: number): number => Math.min(wanted[mesh.from[h]], wanted[mesh.to(h)]);
  for (let round = 0; round < ROUNDS; round++) {
    splitAbove(mesh, curves, (h) => (4 / 3) * at(h), wanted);
    while (kept.length < mesh.vertices) kept.push(0);
    collapseBelow(mesh, kept, (h) => (4 / 5) * at(h), 5 / 3, plane);
    dropSpikes(mesh);
    turnEdges(mesh, plane);
    evenOut(mesh, kept, curves, form);
  }
  turnEdges(mesh, plane);
  dropSpikes(mesh);
  openNarrowCorners(mesh, kept);
  return Uint8Array.from(kept);
}

/** 0: free, 1: on a line, 2: a corner. */
const kindOf = (mesh: TriMesh, corners: Marks, v: number): 0 | 1 | 2 =>
  corners[v] === 1 ? 2 : mesh.isBorder(v) || mesh.isOnLine(v) ? 1 : 0;

/** Vertex → 1 at corners; changed where one moves into another. */
type Marks = Uint8Array | number[];

/** Edges shorter than `shortest` go, unless one would then be longer than that by more than the factor. */
function collapseBelow(
  mesh: TriMesh,
  corners: Marks,
  shortest: (h: number) => number,
  factor: number,
  plane: MirrorPlane | null,
): void {
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (!mesh.isAlive(Math.floor(h / 3)) || (mesh.twin[h] >= 0 && mesh.twin[h] < h)) continue;
    const limit = shortest(h);
    if (mesh.squaredLength(h) < limit * limit) tryCollapse(mesh, corners, h, factor * limit, plane);
  }
}

function tryCollapse(mesh: TriMesh, corners: Marks, half: number, longest: number, plane: MirrorPlane | null): void {
  let h = half;
  let [ku, kv] = [kindOf(mesh, corners, mesh.from[h]), kindOf(mesh, corners, mesh.to(h))];
  if (ku === 2 && kv === 2) return;
  if (ku >= 1 && kv >= 1 && mesh.line[h] < 0) return;
  if (ku > kv && mesh.twin[h] >= 0) {
    h = mesh.twin[h];
    [ku, kv] = [kv, ku];
  }
  if (!mayCollapse(mesh, h)) return;
  const { points: p } = mesh;
  const u = mesh.from[h],
    v = mesh.to(h);
  if (plane && ku === 0 && kv > 0 && spansCut(mesh, h, plane)) return;
  // the place of the one that is bound more; on a border its corner may be the one that goes
  const bound = ku > kv ? u : ku < kv || kv > 0 ? v : rimEnd(mesh, u, v);
  const [a, b] = bound === null ? [u, v] : [bound, bound];
  const { facing: f } = mesh;
  const at = [(p[3 * a] + p[3 * b]) / 2, (p[3 * a + 1] + p[3 * b + 1]) / 2, (p[3 * a + 2] + p[3 * b + 2]) / 2];
  const facing = [(f[3 * a] + f[3 * b]) / 2, (f[3 * a + 1] + f[3 * b + 1]) / 2, (f[3 * a + 2] + f[3 * b + 2]) / 2];
  if (!staysSound(mesh, u, v, h, at, facing, longest)) return;
  if (corners[u] === 1) corners[v] = 1;
  mesh.facing.set(facing, 3 * v);
  collapse(mesh, h, at[0], at[1], at[2]);
}

/** Whether an edge whose start moves to its end on the mirror plane would draw another across to the plane: with its image it would be one edge twice, and triangles would lie in the plane. */
function spansCut(mesh: TriMesh, h: number, plane: MirrorPlane): boolean {
  const [u, v] = [mesh.from[h], mesh.to(h)];
  if (!isOnCut(mesh, v, plane)) return false;
  const beside = [mesh.from[prevHalf(h)], mesh.from[prevHalf(mesh.twin[h])]];
  return mesh.ring(u).some((w) => w !== v && !beside.includes(w) && isOnCut(mesh, w, plane));
}

/** Whether the triangles round both ends keep their facing, and their edges stay short, when both are at one place. */
function staysSound(
  mesh: TriMesh,
  u: number,
  v: number,
  h: number,
  at: readonly number[],
  facing: readonly number[],
  longest: number,
): boolean {
  const { from, points: p } = mesh;
  const gone = Math.floor(h / 3),
    other = mesh.twin[h] < 0 ? -1 : Math.floor(mesh.twin[h] / 3);
  const most = longest * longest;
  for (let w = u; ; w = v) {
    const first = mesh.out[w];
    for (let out = first, after = NO_HALF; out !== NO_HALF; out = after) {
      after = mesh.twin[prevHalf(out)];
      if (after === first) after = NO_HALF;
      const t = Math.floor(out / 3);
      if (t === gone || t === other) continue;
      const b = 3 * from[nextHalf(out)],
        c = 3 * from[prevHalf(out)];
      const ex = p[c] - p[b], ey = p[c + 1] - p[b + 1], ez = p[c + 2] - p[b + 2]; // prettier-ignore
      const ox = p[3 * w] - p[b], oy = p[3 * w + 1] - p[b + 1], oz = p[3 * w + 2] - p[b + 2]; // prettier-ignore
      const nx = at[0] - p[b], ny = at[1] - p[b + 1], nz = at[2] - p[b + 2]; // prettier-ignore
      if (nx * nx + ny * ny + nz * nz > most) return false;
      const bx = ey * oz - ez * oy, by = ez * ox - ex * oz, bz = ex * oy - ey * ox; // prettier-ignore
      const ax = ey * nz - ez * ny, ay = ez * nx - ex * nz, az = ex * ny - ey * nx; // prettier-ignore
      const before = Math.sqrt(bx * bx + by * by + bz * bz),
        size = Math.sqrt(ax * ax + ay * ay + az * az);
      const across = ex * ex + ey * ey + ez * ez;
      // a needle faces anywhere: its own turn tells nothing
      const wasThin = before < THIN * Math.max(across, ox * ox + oy * oy + oz * oz);
      if (!(size > 0) || (!wasThin && ax * bx + ay * by + az * bz <= TURN * before * size)) return false;
      if (turnsAway(mesh.facing, facing, b, c, ax, ay, az, size)) return false;
      // no needle either
      if (size < 0.02 * across && !(wasThin && size > before)) return false;
    }
    if (w === v) return true;
  }
}

/**
 * Splits edges that are too long, those first that are the longest of a triangle: bisecting anything else breeds needles (Rivara 1984).
 */
function splitAbove(mesh: TriMesh, curves: readonly Curve[], longest: (h: number) => number, wanted: number[]): void {
  const isLongest = (h: number, own: number): boolean =>
    h >= 0 && own >= mesh.squaredLength(nextHalf(h)) && own >= mesh.squaredLength(prevHalf(h));
  const isLong = (h: number): boolean => mesh.squaredLength(h) > longest(h) ** 2;
  for (let pass = 0; pass < MOST_SPLITS; pass++) {
    const long: number[] = [];
    for (let h = 0; h < 3 * mesh.triangles; h++)
      if (mesh.isAlive(Math.floor(h / 3)) && !(mesh.twin[h] >= 0 && mesh.twin[h] < h) && isLong(h)) long.push(h);
    if (long.length === 0) return;
    // by length, not by number: splitting renumbers edges beside it, which could keep one from ever having its turn
    const lengths = new Map(long.map((h) => [h, mesh.squaredLength(h)]));
    long.sort((a, b) => (lengths.get(b) as number) - (lengths.get(a) as number));
    for (const h of long) {
      const own = mesh.squaredLength(h);
      if (!isLong(h) || (!isLongest(h, own) && !isLongest(mesh.twin[h], own))) continue;
      const lengthHere = (wanted[mesh.from[h]] + wanted[mesh.to(h)]) / 2;
      const line = mesh.line[h];
      const m = mesh.split(h);
      wanted[m] = lengthHere;
      if (line >= 0) ontoCurve(mesh, m, curves[line]);
    }
  }
}

/** Puts the middle of a split edge on its curve, unless it would land beyond the edge's ends: a curve that doubles back must not grow edges. */
function ontoCurve(mesh: TriMesh, m: number, curve: Curve): void {
  const { points: p } = mesh;
  const at = onCurve(curve, p[3 * m], p[3 * m + 1], p[3 * m + 2]);
  const half = Math.min(...mesh.fan(m).map((h) => (mesh.line[h] >= 0 ? mesh.squaredLength(h) : Infinity)));
  const moved = (at[0] - p[3 * m]) ** 2 + (at[1] - p[3 * m + 1]) ** 2 + (at[2] - p[3 * m + 2]) ** 2;
  if (moved < 0.5 * half) p.set(at, 3 * m);
}

/** Splits all edges longer than `longest`, before any line is marked. Cost: the triangles that come of it. */
export function splitLong(mesh: TriMesh, longest: number): void {
  splitAbove(mesh, [], () => longest, []);
}

/** Vertices with three edges, on no line, go: what stands on a triangle alone would turn the field right round. */
function dropSpikes(mesh: TriMesh): void {
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] < 0 || mesh.isBorder(v)) continue;
    const fan = mesh.fan(v);
    if (fan.length !== 3 || fan.some((h) => mesh.line[h] >= 0)) continue;
    const h = fan.find((x) => mayCollapse(mesh, x));
    if (h === undefined) continue;
    const w = 3 * mesh.to(h);
    collapse(mesh, h, mesh.points[w], mesh.points[w + 1], mesh.points[w + 2]);
  }
}

/**
 * Closes handles and necks that three edges of together less than `around` run round: no quads would fit. Gives how many. Cost: the edges times their
 * neighbours.
 */
export function closeTiny(mesh: TriMesh, around: number): number {
  let closed = 0;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (!mesh.isAlive(Math.floor(h / 3)) || mesh.twin[h] < 0 || mesh.twin[h] < h) continue;
    const ab = Math.sqrt(mesh.squaredLength(h));
    if (ab > around / 2) continue;
    const [u, v] = [mesh.from[h], mesh.to(h)];
    const [left, right] = [mesh.from[prevHalf(h)], mesh.from[prevHalf(mesh.twin[h])]];
    for (const b of mesh.fan(v)) {
      const w = mesh.to(b);
      if (w === u || w === left || w === right) continue;
      const c = mesh.fan(w).find((x) => mesh.to(x) === u);
      if (c === undefined || ab + Math.sqrt(mesh.squaredLength(b)) + Math.sqrt(mesh.squaredLength(c)) > around)
        continue;
      if (!pinch(mesh, [h, b, c])) continue;
      closed++;
      break;
    }
  }
  return closed;
}

/** Turns edges where that brings the points round them nearer to six neighbours, or four on a border, folds nothing and joins no two points of the mirror plane. */
function turnEdges(mesh: TriMesh, plane: MirrorPlane | null): void {
  const valence = new Int32Array(mesh.vertices);
  const wanted = new Int8Array(mesh.vertices);
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] < 0) continue;
    valence[v] = mesh.ring(v).length;
    wanted[v] = mesh.isBorder(v) ? 4 : 6;
  }
  const off = (v: number, by: number): number => (valence[v] + by - wanted[v]) ** 2;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const g = mesh.twin[h];
    if (g < h || !mesh.isAlive(Math.floor(h / 3)) || mesh.line[h] >= 0) continue;
    const u = mesh.from[h],
      v = mesh.from[g],
      a = mesh.from[prevHalf(h)],
      b = mesh.from[prevHalf(g)];
    const gain = off(u, 0) + off(v, 0) + off(a, 0) + off(b, 0) - off(u, -1) - off(v, -1) - off(a, 1) - off(b, 1);
    if (gain > 0 && plane && isOnCut(mesh, a, plane) && isOnCut(mesh, b, plane)) continue;
    if (gain <= 0 || valence[u] <= 4 || valence[v] <= 4 || !foldsNot(mesh, u, v, a, b) || !mesh.mayTurn(h)) continue;
    mesh.turn(h);
    valence[u]--;
    valence[v]--;
    valence[a]++;
    valence[b]++;
  }
}

/** A triangle faces as the form does where it agrees with it by more than this; cosine. */
const FACES = 0.4;

/** How far a triangle faces as the form does at its corners, cosine, and how thin it is. */
function faceOf({ points: p, facing }: TriMesh, x: number, y: number, z: number): { faces: number; thin: number } {
  const [i, j, k] = [3 * x, 3 * y, 3 * z];
  const sx = p[j] - p[i], sy = p[j + 1] - p[i + 1], sz = p[j + 2] - p[i + 2]; // prettier-ignore
  const tx = p[k] - p[i], ty = p[k + 1] - p[i + 1], tz = p[k + 2] - p[i + 2]; // prettier-ignore
  const nx = sy * tz - sz * ty, ny = sz * tx - sx * tz, nz = sx * ty - sy * tx; // prettier-ignore
  const fx = facing[i] + facing[j] + facing[k], fy = facing[i + 1] + facing[j + 1] + facing[k + 1], fz = facing[i + 2] + facing[j + 2] + facing[k + 2]; // prettier-ignore
  const l = Math.sqrt(nx * nx + ny * ny + nz * nz);
  const longest = Math.max(sx * sx + sy * sy + sz * sz, tx * tx + ty * ty + tz * tz, (tx - sx) ** 2 + (ty - sy) ** 2 + (tz - sz) ** 2); // prettier-ignore
  const f = Math.sqrt(fx * fx + fy * fy + fz * fz);
  return { faces: l > 0 && f > 0 ? (nx * fx + ny * fy + nz * fz) / (l * f) : 0, thin: longest > 0 ? l / longest : 0 };
}

/** Whether the triangles that a turned edge would have face as the form does and are no thinner than those it has. */
function foldsNot(mesh: TriMesh, u: number, v: number, a: number, b: number): boolean {
  const before = [faceOf(mesh, u, v, a), faceOf(mesh, v, u, b)];
  const after = [faceOf(mesh, u, b, a), faceOf(mesh, b, v, a)];
  const thinnest = (own: typeof before): number => Math.min(own[0].thin, own[1].thin);
  return after.every(({ faces }) => faces > FACES) && (thinnest(after) > 0.2 || thinnest(after) >= thinnest(before));
}

function evenOut(mesh: TriMesh, corners: Marks, curves: readonly Curve[], form: FacingForm): void {
  const { points: p } = mesh;
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] < 0) continue;
    const kind = kindOf(mesh, corners, v);
    if (kind === 2) continue;
    const ring =
      kind === 1 ? lineHalves(mesh, v).map((h) => (mesh.from[h] === v ? mesh.to(h) : mesh.from[h])) : mesh.ring(v);
    let x = 0, y = 0, z = 0; // prettier-ignore
    for (const w of ring) {
      x += p[3 * w] / ring.length;
      y += p[3 * w + 1] / ring.length;
      z += p[3 * w + 2] / ring.length;
    }
    if (kind === 1) {
      moveSoundly(mesh, v, onCurve(curves[mesh.line[lineHalves(mesh, v)[0]]], x, y, z), null);
      continue;
    }
    const { point, normal } = form.closest(
      alongRim(mesh, v) ?? [x, y, z],
      [mesh.facing[3 * v], mesh.facing[3 * v + 1], mesh.facing[3 * v + 2]],
      v,
    );
    moveSoundly(mesh, v, point, normal);
  }
}
