import { nextHalf, prevHalf, type TriMesh } from './TriMesh';

/** No half-edge on the other side, no line. */
const NONE = -1;

/** The rings of two vertices, while it is asked whether they may be drawn together: hundreds of thousands of times. */
const RU: number[] = [],
  RV: number[] = [];

/**
 * Whether the end of h may be drawn into one point with its start without joining what lies apart: the link condition, lines and borders
 * among it (Dey et al. 1999).
 */
export function mayCollapse(mesh: TriMesh, h: number): boolean {
  const u = mesh.from[h],
    v = mesh.to(h);
  const g = mesh.twin[h];
  const borders = Number(mesh.isBorder(u)) + Number(mesh.isBorder(v));
  if (g !== NONE && borders === 2) return false;
  const ru = mesh.ring(u, RU),
    rv = mesh.ring(v, RV);
  let shared = 0;
  for (const w of ru) if (rv.includes(w) && ++shared > 2) return false;
  if (shared !== (g === NONE ? 1 : 2)) return false;
  // what is left must still be a surface round the opposite points
  for (let half = h; ; half = g) {
    const w = mesh.from[prevHalf(half)];
    const [a, b] = [nextHalf(half), prevHalf(half)];
    if (mesh.twin[a] === NONE && mesh.twin[b] === NONE) return false;
    if (!mesh.isBorder(w) && hasThree(mesh, w)) return false;
    // two lines that meet only at the apex would be laid on one another
    if (mesh.line[a] !== NONE && mesh.line[b] !== NONE) return false;
    if (half === g || g === NONE) return true;
  }
}

/** Whether a point inside has no more than three edges. */
function hasThree(mesh: TriMesh, v: number): boolean {
  const first = mesh.out[v];
  let h = first;
  for (let k = 0; k < 3; k++) {
    h = mesh.twin[prevHalf(h)];
    if (h === first) return true;
  }
  return false;
}

/** Draws the start of h into its end, which goes to (x, y, z). `mayCollapse` must hold. */
export function collapse(mesh: TriMesh, h: number, x: number, y: number, z: number): void {
  const { from, twin, line, out, points } = mesh;
  const u = from[h],
    v = mesh.to(h);
  const moved = mesh.fan(u);
  const keep = [];
  for (const half of twin[h] === NONE ? [h] : [h, twin[h]]) {
    const [a, b] = [nextHalf(half), prevHalf(half)];
    const [ta, tb] = [twin[a], twin[b]];
    const kept = Math.max(line[a], line[b]);
    keep.push(ta, tb, from[b]);
    if (ta !== NONE) {
      twin[ta] = tb;
      line[ta] = kept;
    }
    if (tb !== NONE) {
      twin[tb] = ta;
      line[tb] = kept;
    }
    const t = half - (half % 3);
    from[t] = from[t + 1] = from[t + 2] = NONE;
  }
  for (const m of moved) if (from[m] === u) from[m] = v;
  out[u] = NONE;
  points[3 * v] = x;
  points[3 * v + 1] = y;
  points[3 * v + 2] = z;
  for (let k = 0; k < keep.length; k += 3)
    for (const half of [keep[k], keep[k + 1]]) {
      if (half === NONE) continue;
      mesh.settleOut(from[half], half);
      mesh.settleOut(mesh.to(half), nextHalf(half));
    }
}
