import { TopologyError } from '../../errors';
import { cross, length, planeDistance, sub, type MirrorPlane, type Vec3 } from '../../math';
import type { PolygonSoup } from '../../mesh';
import {
  regionCurves,
  regionParts,
  regionValue,
  SculptSurface,
  type RegionGround,
  type TriangleData,
} from '../../surface';
import type { Watch } from '../Stages';
import { bestFree, nearestIndex, patchWithin } from './freeSheet';
import { GOOD, patchTold, startsOf, type PatchAsked } from './patch';
import { edgesOf, onPlane, SheetBorder } from './sheetBorder';

/** What a sheet is made by. */
export interface SheetAsked {
  /** of an edge of the border, file units */
  edge: number;
  evenness: number;
  followForm: number;
  /** the sheet ends here */
  plane: MirrorPlane | null;
  /** the side of the plane that it lies on, 1 or −1; null: where most of the region does */
  side: number | null;
}

/** A sheet of quads, and how long the edges of its border came out. */
export interface Sheet {
  soup: PolygonSoup;
  /** file units: the least and the greatest */
  borderEdges: [number, number];
  told: string[];
}

/** Holes in a region, and parts of it, of less than so many quads are taken for slips of the brush. */
const SLIP = 3;
/** The edges of a border are at most so many times as long as asked, or as short: on the whole, and each, or another way is tried; as each other, or it is told. */
const EVEN = 1.15;
const UNEVEN = 1.6;

/**
 * A sheet over a region of a sculpt: filled with quads, its border an even number of edges of one length, on the region's smooth border. Quads that come out well keep the number of
 * border edges that they have by themselves, within 15 % of what was asked; else a border of the wanted count is joined to them. Slips of the brush are closed, and parts that do not
 * hang together laid one by one. Throws NOTHING_PICKED for a region with nothing in it, NO_WAY for one that is too narrow for such edges. Cost: the sculpt
 * once, and as `layAll` of the region's triangles.
 */
export function sheetOver(
  ground: RegionGround,
  isIn: (v: number) => boolean,
  asked: SheetAsked,
  watch: Watch = {},
): Sheet {
  const value = regionValue(ground, isIn);
  ground.tidy(value, SLIP * asked.edge ** 2);
  if (asked.plane) keepToOneSide(ground, value, asked.plane, asked.side);
  const parts = regionParts(ground.surface, value);
  if (parts.length === 0)
    throw new TopologyError('NOTHING_PICKED', 'Nothing is painted in this region yet; paint it on the sculpt first.');
  const isOn = onPlane(asked);
  const curves = regionCurves(ground.surface, value, isOn);
  if (curves.some((c) => !c.closed))
    throw new TopologyError('NO_WAY', 'This region runs over an open edge of the sculpt, where it has no border of its own: take some away there.'); // prettier-ignore
  const out: Laid = { points: [], faces: [], borders: [], told: [] };
  const borders = curves.map(({ points }) => new SheetBorder(points, asked, ground.surface));
  const homes = nearestParts(parts, borders);
  parts.forEach((part, i) => {
    const own = borders.filter((_, k) => homes[k] === i);
    const stage = (name: string, done: number): void => watch.stage?.(name, (i + done) / parts.length);
    lay(part, own, ground.surface, asked, { ...watch, stage }, out);
  });
  const { points, faces, told } = out;
  const soup = { positions: Float64Array.from(points.flat()), faceStarts: startsOf(faces), corners: Uint32Array.from(faces.flat()) }; // prettier-ignore
  return { soup, borderEdges: spanOf(out.borders), told };
}

/** Parts laid so far. */
interface Laid {
  points: Vec3[];
  faces: number[][];
  /** border loops */
  borders: Vec3[][];
  told: string[];
}

function lay(
  triangles: TriangleData,
  borders: readonly SheetBorder[],
  form: SculptSurface,
  { edge, evenness, followForm }: SheetAsked,
  watch: Watch,
  out: Laid,
): void {
  const shape = {
    wanted: areaOf(triangles) / edge ** 2,
    density: 1,
    triangles: { positions: Float64Array.from(triangles.positions), indices: triangles.indices },
    soup: null,
    onto: (p: Vec3): Vec3 => form.closest(p).point,
  };
  const asked: PatchAsked = { evenness, followForm, keepEdges: null, lines: [], followsLoops: false };
  const free = bestFree(shape, borders, form, edge, asked, watch);
  // quads that come out well by themselves have a border of their own; one of a chosen count has to be joined to them
  const even = free && isEven(free.steps, edge) && free.laying.least >= GOOD ? null : borders.map((b) => b.even());
  const joined = even && patchWithin(shape, even, form).laid(asked, watch, free?.flowed ?? null);
  const isJoined = even !== null && joined !== null && (!free || joined.least >= Math.min(GOOD, free.laying.least));
  const laying = isJoined ? joined : free?.laying;
  if (!laying)
    throw new TopologyError('NO_WAY', 'This region is too narrow, or its border too uneven, for edges of this length: ask for shorter ones, or widen it.'); // prettier-ignore
  const loops = isJoined ? even : (free?.loops ?? []);
  const border = loops.flat();
  const { points: p, quads } = laying.soup;
  const shift = out.points.length;
  for (let v = 0; v < p.length / 3; v++) out.points.push(v < border.length ? border[v] : [p[3 * v], p[3 * v + 1], p[3 * v + 2]]); // prettier-ignore
  for (const t of laying.triangles) out.faces.push(t.map((v) => v + shift));
  for (let q = 0; q < quads.length; q += 4) out.faces.push([...quads.subarray(q, q + 4)].map((v) => v + shift));
  out.borders.push(...loops);
  if (!isJoined && free && Math.max(...free.steps) > UNEVEN * Math.min(...free.steps))
    out.told.push('its border as uneven as the quads inside need it');
  out.told.push(...patchTold(laying, null));
}

/** Whether a border's steps are of about the wanted length, on the whole and each. */
function isEven(steps: readonly number[], edge: number): boolean {
  const mean = steps.reduce((sum, s) => sum + s, 0) / steps.length;
  const isNear = (length: number, times: number): boolean => length > edge / times && length < edge * times;
  return isNear(mean, EVEN) && isNear(Math.min(...steps), UNEVEN) && isNear(Math.max(...steps), UNEVEN);
}

/** What lies beyond the plane is taken out of the region. */
function keepToOneSide(
  { surface }: RegionGround,
  value: Float32Array,
  plane: MirrorPlane,
  wanted: number | null,
): void {
  const { positions: p, diagonal } = surface;
  const far = (v: number): number => planeDistance([p[3 * v], p[3 * v + 1], p[3 * v + 2]], plane);
  let sides = 0;
  for (let v = 0; v < value.length; v++) if (value[v] >= 0) sides += Math.sign(far(v));
  const side = wanted ?? (sides < 0 ? -1 : 1);
  // as steep as a region's own border is, so that both meet in a corner
  const steep = 100 / diagonal;
  for (let v = 0; v < value.length; v++) value[v] = Math.min(value[v], side * far(v) * steep);
}

/** The part that each border lies on. */
function nearestParts(parts: readonly TriangleData[], borders: readonly SheetBorder[]): number[] {
  if (parts.length === 1) return borders.map(() => 0);
  const surfaces = parts.map(({ positions, indices }) => SculptSurface.build({ positions, indices: indices.slice() }));
  return borders.map(({ curve }) =>
    nearestIndex(surfaces.map((s) => curve.reduce((sum, p) => sum + s.closest(p).distance, 0))),
  );
}

function spanOf(loops: readonly Vec3[][]): [number, number] {
  const lengths = loops.flatMap(edgesOf);
  return lengths.length > 0 ? [Math.min(...lengths), Math.max(...lengths)] : [0, 0];
}

function areaOf({ positions: p, indices }: TriangleData): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k): Vec3 => [p[3 * indices[i + k]], p[3 * indices[i + k] + 1], p[3 * indices[i + k] + 2]]); // prettier-ignore
    const [u, v] = [sub(b, a), sub(c, a)];
    sum += length(cross(u, v)) / 2;
  }
  return sum;
}
