import {
  add,
  addScaled,
  axisIndex,
  cross,
  directionAcross,
  dot,
  normalize,
  planeDistance,
  scale,
  type MirrorPlane,
  type Vec3,
} from '../../math';
import type { SculptSurface } from '../../surface';
import { bendsOf } from './bends';
import type { Density } from './density';
import { normalsOf } from './surgery';
import type { TriMesh } from './TriMesh';

/** How many quads should go round a limb. */
const AROUND = 6;
/** Quads are made no smaller than this share of the mean for a limb's sake. */
const SMALLEST = 0.4;
/** Where the form turns by more than this from one side of a quad to the other, radians, quads are smaller, but no smaller than a share of the mean. */
const BENT = 0.5;
const SMALLEST_BENT = 0.5;
/** From one quad to the next, sizes change by no more than about this share. */
const GRADE = 0.25;
const RAYS = 3;
/** How wide what is thin is, is looked for along so many lines, by rays that lean so far off the inward normal: tangent of that. */
const WIDTHS = 3;
const LEAN = Math.tan((75 * Math.PI) / 180);
/** What is thicker than so many edges is thick: rays look no further. */
const THICK = 8;
/** How far a leaning ray goes sideways for its length. */
const SIDEWAYS = LEAN / Math.hypot(1, LEAN);

/** Working edges are made no shorter than this share of the usual ones. */
const FINEST = 0.2;
/** For what is thin there may be so many times as many working triangles. */
const MOST_FINER = 1.6;
/** And so many where all is thin, with those for what is narrow, too. */
const MOST_WITH_LIMBS = 1.9;

/**
 * Wanted edge length of working triangles per vertex: `usual`, shorter where the form is thin, so that no tip is a single vertex, and where more quads are wanted; of a form that is thin all
 * over, where it is narrow. Cost: three rays a vertex, and nine more of such a form.
 */
export function workingLengths(
  mesh: TriMesh,
  surface: SculptSurface,
  usual: number,
  density: Density | null,
): Float64Array {
  const forThick = (thick: Float64Array<ArrayBuffer>): Float64Array<ArrayBuffer> => {
    const wanted = thick.map((d, v) => Math.min(1, Math.max(FINEST, (0.4 * d) / usual), sizeAt(mesh, density, v)));
    graded(mesh, wanted, usual);
    return wanted;
  };
  const wanted = forThick(smoothedThickness(mesh, surface, THICK * usual));
  // a form that is thin all over would have many times as many triangles, and be none the better for it
  const even = floored(wanted, MOST_FINER);
  if (even === wanted) return wanted.map((w) => w * usual);
  // but where it is thin and narrow, as the strap of a cloak, few triangles go round it
  const limbs = forThick(smoothedThickness(mesh, surface, THICK * usual, () => true));
  return floored(wanted.map((_, v) => Math.min(even[v], limbs[v])), MOST_WITH_LIMBS).map((w) => w * usual); // prettier-ignore
}

/** Shares of an edge, none below the least floor with which there are no more than so many times as many triangles. */
function floored(shares: Float64Array<ArrayBuffer>, most: number): Float64Array<ArrayBuffer> {
  const countOf = (floor: number): number => meanOf(shares.map((w) => Math.max(floor, w) ** -2));
  let floor = FINEST;
  while (floor < 1 && countOf(floor) > most) floor *= 1.1;
  return floor === FINEST ? shares : shares.map((w) => Math.max(floor, w));
}

const meanOf = (values: Float64Array): number => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);

/** Wanted edge length at each vertex over the usual one by density alone, graded. Cost: a call of the density for each. */
export function densitySizes(mesh: TriMesh, density: Density, size: number): Float64Array {
  const { points: p } = mesh;
  return paintedSizes(mesh, Float64Array.from({ length: mesh.vertices }, (_, v) => density([p[3 * v], p[3 * v + 1], p[3 * v + 2]])), size); // prettier-ignore
}
/** The same by the density of each vertex. Cost: the mesh. */
export function paintedSizes(mesh: TriMesh, density: Float64Array, size: number): Float64Array {
  const wanted = density.map((times) => 1 / Math.sqrt(times));
  graded(mesh, wanted, size);
  return wanted;
}

/**
 * Wanted size of quads per triangle over the mean size: smaller where the form is thin, by how many quads should go round, and where it bends, graded, and scaled so that
 * the count stays (`evenness` 0 leaves all at 1), `sizes` of the vertices taken into account. Thickness is the median of a few rays inward, smoothed
 * (after Shapira et al. 2008), on through the mirror `plane`; a wall is as thin as a limb, but wide: no fewer quads go round it. Cost: three rays a vertex, six more where it is thin, and its bends.
 */
export function spreadOf(
  mesh: TriMesh,
  surface: SculptSurface,
  size: number,
  evenness: number,
  sizes: Float64Array | null,
  plane: MirrorPlane | null,
): Float64Array {
  const n = mesh.triangles;
  const spread = new Float64Array(n).fill(1);
  if (!(evenness > 0) && !sizes) return spread;
  let wanted = new Float64Array(mesh.vertices).fill(1);
  if (evenness > 0) {
    const isThin = (d: number): boolean => Math.PI * d < AROUND * size;
    const thick = smoothedThickness(mesh, surface, THICK * size, isThin, plane);
    wanted = thick.map((d) => Math.min(1, Math.max(SMALLEST, (Math.PI * d) / (AROUND * size))) ** evenness);
    const bends = bendsOf(mesh, size);
    for (const [v, bend] of bends.entries()) wanted[v] = Math.min(wanted[v], bentSize(bend * size) ** evenness);
  }
  graded(mesh, wanted, size);
  for (let t = 0; t < n; t++) spread[t] = (wanted[mesh.from[3 * t]] + wanted[mesh.from[3 * t + 1]] + wanted[mesh.from[3 * t + 2]]) / 3; // prettier-ignore
  // as many quads as before: the mean of area over size² is that of the area
  let area = 0,
    quads = 0;
  for (let t = 0; t < n; t++) {
    const a = areaOf(mesh, t);
    area += a;
    const own = sizes ? (sizes[mesh.from[3 * t]] + sizes[mesh.from[3 * t + 1]] + sizes[mesh.from[3 * t + 2]]) / 3 : 1;
    quads += a / (spread[t] * spread[t] * own * own);
  }
  const by = Math.sqrt(quads / area);
  return spread.map((s) => s * by);
}

/** Size over the usual one of quads that would turn by so much, radians, so that they stay as near to the form as others: how far off they are goes by their size squared, times the bend. */
const bentSize = (turn: number): number => Math.max(SMALLEST_BENT, Math.min(1, Math.sqrt(BENT / turn)));

/** Wanted edge length at a vertex, over the usual one. */
const sizeAt = ({ points: p }: TriMesh, density: Density | null, v: number): number =>
  density ? 1 / Math.sqrt(density([p[3 * v], p[3 * v + 1], p[3 * v + 2]])) : 1;

export function areaOf(mesh: TriMesh, t: number): number {
  const { points: p, from } = mesh;
  const [a, b, c] = [3 * from[3 * t], 3 * from[3 * t + 1], 3 * from[3 * t + 2]];
  const ux = p[b] - p[a], uy = p[b + 1] - p[a + 1], uz = p[b + 2] - p[a + 2]; // prettier-ignore
  const vx = p[c] - p[a], vy = p[c + 1] - p[a + 1], vz = p[c + 2] - p[a + 2]; // prettier-ignore
  const x = uy * vz - uz * vy, y = uz * vx - ux * vz, z = ux * vy - uy * vx; // prettier-ignore
  return 0.5 * Math.sqrt(x * x + y * y + z * z);
}

/** How thick the form is at each vertex, `most` at most, smoothed; where `isLimb` says that a thing so thin may be one, no less than how wide it is across its narrower way. */
function smoothedThickness(
  mesh: TriMesh,
  surface: SculptSurface,
  most: number,
  isLimb: (thick: number) => boolean = () => false,
  plane: MirrorPlane | null = null,
): Float64Array<ArrayBuffer> {
  const { points: p } = mesh;
  const facing = normalsOf(mesh, p);
  const near = surface.diagonal * 1e-4;
  const through = (v: number, d: Vec3): number | null =>
    depthOf(surface, [p[3 * v], p[3 * v + 1], p[3 * v + 2]], d, [near, most], plane);
  let thick = new Float64Array(mesh.vertices);
  for (let v = 0; v < mesh.vertices; v++) {
    const inward: Vec3 = [-facing[3 * v], -facing[3 * v + 1], -facing[3 * v + 2]];
    const own = middleOf(raysInward(inward, v).flatMap((d) => through(v, d) ?? [])) ?? most;
    thick[v] = isLimb(own)
      ? Math.max(
          own,
          widthAt(inward, (d) => through(v, d)),
        )
      : own;
  }
  for (let round = 0; round < 4; round++)
    thick = thick.map((own, v) => {
      const ring = mesh.ring(v).map((w) => thick[w]).sort((a, b) => a - b); // prettier-ignore
      return (own + 2 * ring[ring.length >> 1]) / 3;
    });
  return thick;
}

/** How far it is through the form to its other side, `most` where that is further or there is none; through the mirror plane by the image of what is here. Null where what is hit faces this way. */
function depthOf(
  surface: SculptSurface,
  from: Vec3,
  way: Vec3,
  [near, most]: readonly [number, number],
  plane: MirrorPlane | null,
): number | null {
  const d = normalize(way);
  const hit = surface.raycast(from, d, near, most);
  if (hit) return dot(hit.normal, d) > 0 ? hit.distance : null;
  const on = plane ? -planeDistance(from, plane) / d[axisIndex(plane.axis)] : 0;
  if (!plane || !(on > near && on < most)) return most;
  const beyond = directionAcross(d, plane);
  const image = surface.raycast(addScaled(from, d, on), beyond, 0, most - on);
  if (!image) return most;
  return dot(image.normal, beyond) > 0 ? on + image.distance : null;
}

const middleOf = (values: number[]): number | null =>
  values.length > 0 ? values.sort((a, b) => a - b)[values.length >> 1] : null;

/** The inward normal, and two directions leaning off it. */
const raysInward = (inward: Vec3, v: number): Vec3[] =>
  Array.from({ length: RAYS }, (_, ray) => {
    const lean = ray === 0 ? 0 : ray === 1 ? 0.35 : -0.35;
    return inward.map((x, k) => (k === (v + ray) % 3 ? x + lean : x)) as unknown as Vec3;
  });

/** How wide what lies under a place is across its narrower way: at least, as rays that lean end where it is thin. */
function widthAt(inward: Vec3, through: (d: Vec3) => number | null): number {
  const x = normalize(cross(inward, Math.abs(inward[0]) < 0.7 ? [1, 0, 0] : [0, 1, 0]));
  const y = cross(inward, x);
  let least = Infinity;
  for (let i = 0; i < WIDTHS; i++) {
    const [c, s] = [Math.cos((i * Math.PI) / WIDTHS), Math.sin((i * Math.PI) / WIDTHS)];
    let width = 0;
    for (const side of [LEAN, -LEAN]) {
      const d = normalize(add(inward, add(scale(x, side * c), scale(y, side * s))));
      width += (through(d) ?? Infinity) * SIDEWAYS;
    }
    least = Math.min(least, width);
  }
  return least;
}
/** Lets sizes grow from place to place only slowly. */
function graded(mesh: TriMesh, wanted: Float64Array, size: number): void {
  for (let sweep = 0, again = true; again && sweep < 40; sweep++) {
    again = false;
    for (let h = 0; h < 3 * mesh.triangles; h++) {
      const u = mesh.from[h],
        v = mesh.to(h);
      const most = wanted[u] + (GRADE * Math.sqrt(mesh.squaredLength(h))) / size;
      if (wanted[v] > most * (1 + 1e-9)) {
        wanted[v] = most;
        again = true;
      }
    }
  }
}
