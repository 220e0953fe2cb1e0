import { distance, isOnPlane, type MirrorPlane, type Vec3 } from '../../math';
import { prevHalf, type TriMesh } from '../form/TriMesh';
import { planeEnds } from './planeEnds';

/** A chain of edges that must stay edges: a sharp edge, a border, a mirror cut, a guide. */
export interface Curve {
  /** f64[3·n] its points in order; the first again at the end where it closes */
  points: Float64Array;
  /** of a border or mirror cut: faces on one side only */
  isBorder: boolean;
  /** a guide or a region's border: asked for, not of the form */
  isDrawn: boolean;
  /** where the form is sharper than quads are without a loop: none of what was asked for */
  isRidge?: boolean;
  /** a mirror cut: the form goes on beyond it */
  isMirrored: boolean;
  /** round a hole that was closed: no edges run along it any more */
  isClosedOver?: boolean;
}

/** How lines are told apart before they are numbered. */
const OF_FORM = 0;
const DRAWN = 1;
const RIDGE = 2;
/** How often the points of a drawn line are evened: its way along edges is a zigzag. */
const EVENED = 10;

/** A line that turns by more than this has a corner; cosine. */
const CORNER = Math.cos((45 * Math.PI) / 180);
/** How often normals are averaged before edges are called sharp. */
const FILTERED = 8;
/** More sharp edges than this share of a fine mesh's are noise, … */
const NOISE = 0.03;
/** … where so many of the points along them have others than two: edges of a form run on, those of noise end and branch. */
const TANGLED = 0.2;

/**
 * Marks the lines of a part: borders, edges sharper than `angle` degrees after its normals were filtered along the surface
 * (Zheng et al. 2011), in chains longer than `shortest`, and whatever `draw` marks beside them as drawn, or as a ridge. Numbers them from corner to corner and gives their points. Vertices
 * where lines meet, end or turn are `corners`. Borders in the mirror `plane` are told from others. Sharp edges that are noise are none; `noise` is how many. Cost: linear, eight times over.
 */
export function markLines(
  mesh: TriMesh,
  angle: number | null,
  shortest: number,
  draw: (drawn: number, ridge: number) => void = () => undefined,
  plane: MirrorPlane | null = null,
): { curves: Curve[]; corners: Uint8Array; noise: number } {
  const { twin, line } = mesh;
  line.fill(-1);
  const sharp = angle === null ? [] : sharpEdges(mesh, angle);
  const isNoise = mesh.triangles > 3000 && sharp.length > NOISE * 1.5 * mesh.triangles && isTangle(mesh, sharp);
  if (!isNoise) for (const h of sharp) mesh.setLine(h, OF_FORM);
  if (angle !== null) dropShort(mesh, shortest);
  for (let h = 0; h < twin.length; h++) if (twin[h] === -1 && mesh.isAlive(Math.floor(h / 3))) line[h] = OF_FORM;
  draw(DRAWN, RIDGE);
  ridgesApart(mesh);
  return { ...numbered(mesh, shortest, plane), noise: isNoise ? sharp.length : 0 };
}

/** Whether edges end and branch all over, rather than run on. */
function isTangle(mesh: TriMesh, edges: readonly number[]): boolean {
  const ends = new Map<number, number>();
  for (const h of edges) for (const v of [mesh.from[h], mesh.to(h)]) ends.set(v, (ends.get(v) ?? 0) + 1);
  let odd = 0;
  for (const n of ends.values()) if (n !== 2) odd++;
  return odd > TANGLED * ends.size;
}

function normalsOf(mesh: TriMesh): Float64Array {
  const { from, points: p } = mesh;
  const normals = new Float64Array(3 * mesh.triangles);
  for (let t = 0; t < mesh.triangles; t++) {
    const [a, b, c] = [3 * from[3 * t], 3 * from[3 * t + 1], 3 * from[3 * t + 2]];
    const ux = p[b] - p[a], uy = p[b + 1] - p[a + 1], uz = p[b + 2] - p[a + 2]; // prettier-ignore
    const vx = p[c] - p[a], vy = p[c + 1] - p[a + 1], vz = p[c + 2] - p[a + 2]; // prettier-ignore
    const x = uy * vz - uz * vy, y = uz * vx - ux * vz, z = ux * vy - uy * vx; // prettier-ignore
    const l = Math.sqrt(x * x + y * y + z * z) || 1;
    normals[3 * t] = x / l;
    normals[3 * t + 1] = y / l;
    normals[3 * t + 2] = z / l;
  }
  return normals;
}

function sharpEdges(mesh: TriMesh, angle: number): number[] {
  const { twin, triangles } = mesh;
  let n = normalsOf(mesh);
  const turn = (a: number, b: number): number => n[3 * a] * n[3 * b] + n[3 * a + 1] * n[3 * b + 1] + n[3 * a + 2] * n[3 * b + 2]; // prettier-ignore
  for (let round = 0; round < FILTERED; round++) {
    const next = new Float64Array(n.length);
    for (let t = 0; t < triangles; t++) {
      let x = n[3 * t], y = n[3 * t + 1], z = n[3 * t + 2]; // prettier-ignore
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        if (twin[h] === -1) continue;
        const s = Math.floor(twin[h] / 3);
        // neighbours that face elsewhere count for nothing: what is sharp stays so
        const away = (1 - turn(t, s)) / 0.18;
        const w = Math.exp(-away * away);
        x += w * n[3 * s];
        y += w * n[3 * s + 1];
        z += w * n[3 * s + 2];
      }
      const l = Math.sqrt(x * x + y * y + z * z) || 1;
      next[3 * t] = x / l;
      next[3 * t + 1] = y / l;
      next[3 * t + 2] = z / l;
    }
    n = next;
  }
  const limit = Math.cos((angle * Math.PI) / 180);
  const found: number[] = [];
  for (let h = 0; h < 3 * triangles; h++)
    if (twin[h] > h && turn(Math.floor(h / 3), Math.floor(twin[h] / 3)) < limit) found.push(h);
  return found;
}

/** Takes the marks of ridges off edges that touch other lines: those must not get corners by them. */
function ridgesApart(mesh: TriMesh): void {
  const { line } = mesh;
  const meets = (v: number): boolean => lineHalves(mesh, v).some((h) => line[h] !== RIDGE);
  const touching: number[] = [];
  for (let h = 0; h < line.length; h++) if (line[h] === RIDGE && (meets(mesh.from[h]) || meets(mesh.to(h)))) touching.push(h); // prettier-ignore
  for (const h of touching) mesh.setLine(h, -1);
}

/** Takes marks off chains that are shorter in all than `shortest`. */
function dropShort(mesh: TriMesh, shortest: number): void {
  const { line } = mesh;
  const seen = new Uint8Array(line.length);
  for (let seed = 0; seed < line.length; seed++) {
    if (line[seed] < 0 || seen[seed]) continue;
    const queue = [seed];
    let long = 0;
    for (const h of queue) {
      if (seen[h]) continue;
      seen[h] = 1;
      if (mesh.twin[h] !== -1) seen[mesh.twin[h]] = 1;
      long += Math.sqrt(mesh.squaredLength(h));
      for (const v of [mesh.from[h], mesh.to(h)]) for (const g of lineHalves(mesh, v)) if (!seen[g]) queue.push(g);
    }
    if (long < shortest) for (const h of queue) mesh.setLine(h, -1);
  }
}

/** Half-edges of lines at a vertex: those that leave it, or the one that arrives along a border. */
export function lineHalves(mesh: TriMesh, v: number): number[] {
  const fan = mesh.fan(v);
  const found = fan.filter((h) => mesh.line[h] >= 0);
  const last = prevHalf(fan[fan.length - 1]);
  if (mesh.twin[last] === -1 && mesh.line[last] >= 0) found.push(last);
  return found;
}

/** The other end of an edge. */
export const farEnd = (mesh: TriMesh, h: number, v: number): number => (mesh.from[h] === v ? mesh.to(h) : mesh.from[h]);

/** Numbers chains from corner to corner. Turns are measured over an arc, so that a staircase has no corners. */
function numbered(mesh: TriMesh, arc: number, plane: MirrorPlane | null): { curves: Curve[]; corners: Uint8Array } {
  const corners = new Uint8Array(mesh.vertices);
  const halves: number[] = [];
  for (let h = 0; h < mesh.line.length; h++) if (mesh.line[h] >= 0 && (mesh.twin[h] === -1 || mesh.twin[h] > h)) halves.push(h); // prettier-ignore
  const at = new Map<number, number[]>();
  for (const h of halves)
    for (const v of [mesh.from[h], mesh.to(h)]) {
      const own = at.get(v);
      if (own) own.push(h);
      else at.set(v, [h]);
    }
  for (const [v, own] of at) if (own.length !== 2) corners[v] = 1;
  const ends = plane ? planeEnds(mesh, plane, arc / 4) : [];
  for (const v of ends) corners[v] = 1;
  const place = (v: number): Vec3 => [mesh.points[3 * v], mesh.points[3 * v + 1], mesh.points[3 * v + 2]];
  /** the point some way along the chain that leaves v by h */
  const reach = (v: number, h: number): Vec3 => {
    let [at0, by] = [v, h];
    for (let far = 0, i = 0; i < 64; i++) {
      far += Math.sqrt(mesh.squaredLength(by));
      at0 = farEnd(mesh, by, at0);
      if (far >= arc / 4 || corners[at0] === 1) break;
      const own = at.get(at0) as number[];
      by = own[0] === by ? own[1] : own[0];
    }
    return place(at0);
  };
  const sharp = new Map<number, number>();
  for (const [v, own] of at) {
    if (corners[v]) continue;
    const p = place(v);
    const [a, b] = own.map((h) => unit(reach(v, h), p));
    const straight = -(a[0] * b[0] + a[1] * b[1] + a[2] * b[2]);
    if (straight < CORNER) sharp.set(v, straight);
  }
  // of corners beside each other along a line only the sharpest is one
  for (const [v, straight] of [...sharp].sort((a, b) => a[1] - b[1])) {
    const p = place(v);
    const isWithin = (w: number, far: number): boolean => Math.hypot(...sub(place(w), p)) < far;
    const isNear = ends.some((w) => isWithin(w, arc / 8)) || [...sharp].some(([w, s]) => corners[w] === 1 && s <= straight && w !== v && isWithin(w, arc / 3)); // prettier-ignore
    if (!isNear) corners[v] = 1;
  }
  return { curves: chains(mesh, at, corners, plane), corners };
}

const sub = (a: Vec3, b: Vec3): [number, number, number] => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
function unit(a: Vec3, b: Vec3): Vec3 {
  const d = sub(a, b);
  const l = Math.hypot(...d) || 1;
  return [d[0] / l, d[1] / l, d[2] / l];
}

function chains(
  mesh: TriMesh,
  at: ReadonlyMap<number, readonly number[]>,
  corners: Uint8Array,
  plane: MirrorPlane | null,
): Curve[] {
  const curves: Curve[] = [];
  const seen = new Set<number>();
  const walk = (v: number, first: number): void => {
    const points: number[] = [...mesh.points.subarray(3 * v, 3 * v + 3)];
    let [w, h] = [v, first];
    const isBorder = mesh.twin[first] === -1;
    const isDrawn = mesh.line[first] === DRAWN;
    const isRidge = mesh.line[first] === RIDGE;
    for (;;) {
      seen.add(h);
      mesh.setLine(h, curves.length);
      w = farEnd(mesh, h, w);
      points.push(...mesh.points.subarray(3 * w, 3 * w + 3));
      if (corners[w] === 1 || w === v) break;
      const own = at.get(w) as readonly number[];
      h = own[0] === h ? own[1] : own[0];
    }
    const isMirrored = isBorder && plane !== null && placesIn(points).every((p) => isOnPlane(p, plane));
    // a way along edges is a zigzag
    const way = isDrawn || isRidge ? evened(points) : Float64Array.from(points);
    curves.push({ points: way, isBorder, isDrawn, isRidge, isMirrored });
  };
  for (const [v, own] of at) if (corners[v] === 1) for (const h of own) if (!seen.has(h)) walk(v, h);
  for (const [v, own] of at) for (const h of own) if (!seen.has(h)) walk(v, h);
  return curves;
}

/** Flat coordinates as places. */
export const placesIn = (points: ArrayLike<number>): Vec3[] =>
  Array.from({ length: points.length / 3 }, (_, i) => [points[3 * i], points[3 * i + 1], points[3 * i + 2]]);

/** Whether the corner of lines nearest to a place is one that mirror cuts alone turn at: quads go straight on there, as the form does beyond. Cost: the curves. */
export function turnsInMirrorOnly(curves: readonly Curve[], place: Vec3): boolean {
  const ends = curves
    .filter((curve) => !curve.isRidge)
    .flatMap(({ points, isMirrored }) =>
      placesIn([...points.subarray(0, 3), ...points.subarray(-3)]).map((at) => ({
        far: distance(at, place),
        isMirrored,
      })),
    );
  const near = Math.min(...ends.map(({ far }) => far));
  return ends.length > 0 && ends.every(({ far, isMirrored }) => far > near || isMirrored);
}

/** Whether a curve ends where it starts. */
export const closesUp = (points: Float64Array): boolean =>
  [0, 1, 2].every((k) => points[k] === points[points.length - 3 + k]);

/** Points of a line without its zigzag: each between its neighbours, both ends where they are. */
function evened(points: readonly number[]): Float64Array {
  const p = Float64Array.from(points);
  const last = p.length - 3;
  const isClosed = closesUp(p);
  for (let round = 0; round < EVENED; round++) {
    const q = p.slice();
    for (let i = isClosed ? 0 : 3; i < last; i++) {
      const [before, after] = [i < 3 ? last - 3 + i : i - 3, i + 3];
      p[i] = (q[before] + 2 * q[i] + q[after]) / 4;
    }
    if (isClosed) p.copyWithin(last, 0, 3);
  }
  return p;
}

/** The nearest point of a curve. Cost: its points. */
export const onCurve = (curve: Curve, x: number, y: number, z: number): [number, number, number] =>
  placeOnCurve(curve, x, y, z).point;

/** The nearest point of a curve, how far along it lies, how far away, and how long the curve is. Cost: its points. */
export function placeOnCurve(
  { points: q }: Curve,
  x: number,
  y: number,
  z: number,
): { point: [number, number, number]; along: number; away: number; length: number } {
  let best = Infinity;
  let [px, py, pz, along, length] = [x, y, z, 0, 0];
  for (let i = 0; i + 5 < q.length; i += 3) {
    const ux = q[i + 3] - q[i], uy = q[i + 4] - q[i + 1], uz = q[i + 5] - q[i + 2]; // prettier-ignore
    const uu = ux * ux + uy * uy + uz * uz;
    const l = Math.sqrt(uu);
    const t = uu > 0 ? Math.min(1, Math.max(0, ((x - q[i]) * ux + (y - q[i + 1]) * uy + (z - q[i + 2]) * uz) / uu)) : 0;
    const ax = q[i] + t * ux, ay = q[i + 1] + t * uy, az = q[i + 2] + t * uz; // prettier-ignore
    const d = (ax - x) ** 2 + (ay - y) ** 2 + (az - z) ** 2;
    if (d < best) {
      best = d;
      [px, py, pz] = [ax, ay, az];
      along = length + t * l;
    }
    length += l;
  }
  return { point: [px, py, pz], along, away: Math.sqrt(best), length };
}

/** The point of a curve so far along it. Cost: its points. */
export function pointAlong({ points: q }: Curve, along: number): [number, number, number] {
  let left = along;
  for (let i = 0; i + 5 < q.length; i += 3) {
    const [ux, uy, uz] = [q[i + 3] - q[i], q[i + 4] - q[i + 1], q[i + 5] - q[i + 2]];
    const l = Math.hypot(ux, uy, uz);
    if (left <= l || i + 8 >= q.length) {
      const t = l > 0 ? Math.min(1, left / l) : 0;
      return [q[i] + t * ux, q[i + 1] + t * uy, q[i + 2] + t * uz];
    }
    left -= l;
  }
  return [q[0], q[1], q[2]];
}
