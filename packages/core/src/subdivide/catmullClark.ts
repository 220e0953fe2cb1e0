import type { PolygonSoup } from '../mesh';

/** A mesh as the subdivision sees it; `creases` in pairs of points and their sharpness in levels, Infinity for hard. */
export interface Cage {
  /** f64[3·V] */
  positions: Float64Array;
  /** u32[F + 1] */
  faceStarts: Uint32Array;
  corners: Uint32Array;
  /** [u, v, sharpness] by three */
  creases?: readonly number[];
}

/** One level finer: all quads. Points are the old ones, then one an edge, then one a face. */
export interface Subdivided {
  positions: Float64Array;
  /** u32[4·Q] */
  quads: Uint32Array;
  /** u32[2·E] the ends of each edge of the cage; its point is number V + e */
  edges: Uint32Array;
  vertexCount: number;
  /** sharpness of the finer edges, as `Cage.creases` */
  creases: number[];
}

/**
 * Catmull and Clark's rule (1978) with semi-sharp creases and the corner and border rules of DeRose, Kass and Truong (1998):
 * an edge of sharpness s is sharp for s levels, blended in between. `smooth` false keeps all old points and
 * puts the new ones in the middles. Linear; typed arrays throughout, about 0.4 µs a corner.
 */
export function subdivideOnce(cage: Cage, smooth = true): Subdivided {
  const mesh = new EdgeTable(cage);
  const { vertexCount: V, edgeCount: E, faceCount: F } = mesh;
  const positions = new Float64Array(3 * (V + E + F));
  for (let i = 0; i < 3 * V; i++) positions[i] = cage.positions[i];
  facePoints(cage, mesh, positions);
  edgePoints(mesh, positions, smooth);
  if (smooth) vertexPoints(cage, mesh, positions);
  return {
    positions,
    quads: quadsOf(cage, mesh),
    edges: mesh.ends.slice(0, 2 * E),
    vertexCount: V,
    creases: finerCreases(mesh),
  };
}

/** Several levels. */
export function subdivide(cage: Cage, levels: number, smooth = true): PolygonSoup {
  let now: Cage = cage;
  for (let i = 0; i < levels; i++) {
    const { positions, quads, creases } = subdivideOnce(now, smooth);
    const faceStarts = new Uint32Array(quads.length / 4 + 1);
    for (let f = 0; f < faceStarts.length; f++) faceStarts[f] = 4 * f;
    now = { positions, faceStarts, corners: quads, creases };
  }
  return {
    positions: Float64Array.from(now.positions),
    faceStarts: Uint32Array.from(now.faceStarts),
    corners: Uint32Array.from(now.corners),
  };
}

/** The edges of a cage, found by a linked list at each lower end. */
class EdgeTable {
  readonly vertexCount: number;
  readonly faceCount: number;
  edgeCount = 0;
  /** u32[2·E] */
  readonly ends: Uint32Array;
  /** corner → edge from it to the next corner of its face */
  readonly ofCorner: Int32Array;
  /** i32[2·E] faces beside, -1 for none; a third face makes the edge a border */
  readonly faces: Int32Array;
  readonly faceUses: Uint8Array;
  readonly sharpness: Float64Array;

  constructor({ positions, faceStarts, corners, creases }: Cage) {
    this.vertexCount = positions.length / 3;
    this.faceCount = faceStarts.length - 1;
    const n = corners.length;
    this.ends = new Uint32Array(2 * n);
    this.ofCorner = new Int32Array(n);
    this.faces = new Int32Array(2 * n).fill(-1);
    this.faceUses = new Uint8Array(n);
    const head = new Int32Array(this.vertexCount).fill(-1);
    const next = new Int32Array(n);
    for (let f = 0; f < this.faceCount; f++) {
      const [from, to] = [faceStarts[f], faceStarts[f + 1]];
      for (let c = from; c < to; c++) {
        const e = this.edgeAt(corners[c], corners[c + 1 < to ? c + 1 : from], head, next);
        this.ofCorner[c] = e;
        if (this.faceUses[e] < 2) this.faces[2 * e + this.faceUses[e]] = f;
        this.faceUses[e] = Math.min(3, this.faceUses[e] + 1);
      }
    }
    this.sharpness = new Float64Array(this.edgeCount);
    for (let i = 0; creases && i < creases.length; i += 3) {
      const e = this.find(creases[i], creases[i + 1], head, next);
      if (e >= 0) this.sharpness[e] = creases[i + 2];
    }
    for (let e = 0; e < this.edgeCount; e++) if (this.faceUses[e] !== 2) this.sharpness[e] = Infinity;
  }

  private find(a: number, b: number, head: Int32Array, next: Int32Array): number {
    const [lo, hi] = a < b ? [a, b] : [b, a];
    for (let e = head[lo]; e >= 0; e = next[e]) if (this.ends[2 * e + 1] === hi) return e;
    return -1;
  }
  private edgeAt(a: number, b: number, head: Int32Array, next: Int32Array): number {
    const lo = a < b ? a : b,
      hi = a < b ? b : a;
    for (let e = head[lo]; e >= 0; e = next[e]) if (this.ends[2 * e + 1] === hi) return e;
    const e = this.edgeCount++;
    this.ends[2 * e] = lo;
    this.ends[2 * e + 1] = hi;
    next[e] = head[lo];
    head[lo] = e;
    return e;
  }
}

function facePoints(
  { faceStarts, corners }: Cage,
  { vertexCount: V, edgeCount: E, faceCount: F }: EdgeTable,
  p: Float64Array,
): void {
  for (let f = 0; f < F; f++) {
    const from = faceStarts[f],
      n = faceStarts[f + 1] - from;
    let x = 0, y = 0, z = 0; // prettier-ignore
    for (let c = from; c < from + n; c++) {
      const v = 3 * corners[c];
      x += p[v];
      y += p[v + 1];
      z += p[v + 2];
    }
    const at = 3 * (V + E + f);
    p[at] = x / n;
    p[at + 1] = y / n;
    p[at + 2] = z / n;
  }
}

function edgePoints(
  { ends, faces, sharpness, vertexCount: V, edgeCount: E }: EdgeTable,
  p: Float64Array,
  smooth: boolean,
): void {
  for (let e = 0; e < E; e++) {
    const a = 3 * ends[2 * e],
      b = 3 * ends[2 * e + 1];
    const at = 3 * (V + e);
    const sharp = smooth ? Math.min(1, sharpness[e]) : 1;
    const f = 3 * (V + E + Math.max(0, faces[2 * e])),
      g = 3 * (V + E + Math.max(0, faces[2 * e + 1]));
    for (let k = 0; k < 3; k++) {
      const middle = (p[a + k] + p[b + k]) / 2;
      p[at + k] = sharp >= 1 ? middle : sharp * middle + (1 - sharp) * (middle / 2 + (p[f + k] + p[g + k]) / 4);
    }
  }
}

/** Old points by the smooth, crease or corner rule, from the sums of what lies round each. */
function vertexPoints({ positions, faceStarts, corners }: Cage, mesh: EdgeTable, p: Float64Array): void {
  const { vertexCount: V, edgeCount: E, faceCount: F, ends, sharpness } = mesh;
  const valence = new Uint32Array(V),
    faceSum = new Float64Array(3 * V),
    faceCount = new Uint32Array(V),
    edgeSum = new Float64Array(3 * V),
    sharpCount = new Uint32Array(V),
    sharpSum = new Float64Array(3 * V),
    sharpTotal = new Float64Array(V);
  for (let f = 0; f < F; f++)
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++) {
      const v = corners[c];
      faceCount[v]++;
      for (let k = 0; k < 3; k++) faceSum[3 * v + k] += p[3 * (V + E + f) + k];
    }
  for (let e = 0; e < E; e++)
    for (let i = 0; i < 2; i++) {
      const v = ends[2 * e + i],
        w = ends[2 * e + 1 - i];
      valence[v]++;
      for (let k = 0; k < 3; k++) edgeSum[3 * v + k] += positions[3 * w + k];
      if (sharpness[e] <= 0) continue;
      sharpCount[v]++;
      sharpTotal[v] += Math.min(1e6, sharpness[e]);
      for (let k = 0; k < 3; k++) sharpSum[3 * v + k] += positions[3 * w + k];
    }
  for (let v = 0; v < V; v++) {
    const n = valence[v];
    if (n === 0) continue;
    const sharp = sharpCount[v] < 2 ? 0 : Math.min(1, sharpTotal[v] / sharpCount[v]);
    for (let k = 0; k < 3; k++) {
      const old = positions[3 * v + k];
      const round =
        faceCount[v] > 0
          ? (faceSum[3 * v + k] / faceCount[v] + (edgeSum[3 * v + k] / n + old) + (n - 3) * old) / n
          : old;
      const held = sharpCount[v] === 2 ? (sharpSum[3 * v + k] + 6 * old) / 8 : old;
      p[3 * v + k] = sharp > 0 ? sharp * held + (1 - sharp) * round : round;
    }
  }
}

function quadsOf(
  { faceStarts, corners }: Cage,
  { vertexCount: V, edgeCount: E, faceCount: F, ofCorner }: EdgeTable,
): Uint32Array {
  const quads = new Uint32Array(4 * corners.length);
  let at = 0;
  for (let f = 0; f < F; f++) {
    const from = faceStarts[f],
      to = faceStarts[f + 1];
    for (let c = from; c < to; c++) {
      quads[at++] = corners[c];
      quads[at++] = V + ofCorner[c];
      quads[at++] = V + E + f;
      quads[at++] = V + ofCorner[c > from ? c - 1 : to - 1];
    }
  }
  return quads;
}

function finerCreases({ edgeCount: E, ends, sharpness, vertexCount: V, faceUses }: EdgeTable): number[] {
  const creases: number[] = [];
  for (let e = 0; e < E; e++) {
    const left = faceUses[e] === 2 ? sharpness[e] - 1 : 0;
    if (left > 0) creases.push(ends[2 * e], V + e, left, ends[2 * e + 1], V + e, left);
  }
  return creases;
}
