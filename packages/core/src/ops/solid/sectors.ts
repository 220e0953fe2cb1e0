import { axisIndex, axisVector, distance, lerp, turned, type Axis, type Vec3 } from '../../math';
import type { PolyMesh } from '../../mesh';

/** One of several alike sectors round an axis: the mesh holds it, the others are it, turned. */
export interface Sectors {
  axis: Axis;
  /** a point of the axis */
  about: Vec3;
  count: number;
}

/** Where a sector meets its neighbours. */
export interface Seam {
  /** border vertices, each with the one that a turn to the next sector brings it onto */
  pairs: [from: number, onto: number][];
  /** border vertices on the axis, which all sectors share */
  hub: number[];
  /** border vertices without a partner that come near one */
  apart: number[];
}

/** Of the distance in which points join, how far those lie that nearly do. */
const NEARLY = 4;

/** Turns a point on by `k` sectors. */
export const turnedOn = ({ axis, about, count }: Sectors, p: Vec3, k: number): Vec3 =>
  turned(p, about, axisVector(`+${axis}`), (2 * Math.PI * k) / count);

/** The point of the axis nearest to a point. */
export const onAxis = ({ axis, about }: Sectors, p: Vec3): Vec3 =>
  about.map((x, k) => (k === axisIndex(axis) ? p[k] : x)) as unknown as Vec3;

/** The seam of a sector: points whose image in the next sector lies within a distance, file units. Cost: the border, sorted into a grid. */
export function seamOf(mesh: PolyMesh, sectors: Sectors, within: number): Seam {
  const border = [...mesh.vertices()].filter((v) => mesh.isBorderVertex(v));
  const isHub = (v: number): boolean => distance(mesh.point(v), onAxis(sectors, mesh.point(v))) <= within;
  const hub = border.filter(isHub);
  const rest = border.filter((v) => !isHub(v));
  const near = nearTo(mesh, rest, NEARLY * within);
  const found = rest
    .flatMap((v) => {
      const to = turnedOn(sectors, mesh.point(v), 1);
      return near(to).filter((w) => w !== v).map((w) => ({ v, w, far: distance(to, mesh.point(w)) })); // prettier-ignore
    })
    .filter(({ far }) => far <= NEARLY * within)
    .sort((a, b) => a.far - b.far || a.v - b.v);
  const [froms, ontos] = [new Set<number>(), new Set<number>()];
  const pairs: [number, number][] = [];
  for (const { v, w, far } of found) {
    // of two sectors each point is the other's image: one pair stands for both
    const isSaid = sectors.count === 2 && (froms.has(w) || ontos.has(v));
    if (far > within || isSaid || froms.has(v) || ontos.has(w)) continue;
    froms.add(v);
    ontos.add(w);
    pairs.push([v, w]);
  }
  const isAlone = (v: number): boolean => !froms.has(v) && !ontos.has(v);
  const apart = new Set(found.filter(({ v, w }) => isAlone(v) && isAlone(w)).flatMap(({ v, w }) => [v, w]));
  return { pairs, hub, apart: [...apart] };
}

/** Where a point goes that comes near the seam: exactly onto the image of a border point in a sector beside, or onto the axis. Null far from both. Cost: the border. */
export function ontoSeam(mesh: PolyMesh, sectors: Sectors, p: Vec3, within: number): Vec3 | null {
  return ontoImage(mesh, sectors, p, within, borderOf(mesh));
}
const borderOf = (mesh: PolyMesh): number[] => [...mesh.vertices()].filter((v) => mesh.isBorderVertex(v));

function ontoImage(mesh: PolyMesh, sectors: Sectors, p: Vec3, within: number, border: readonly number[]): Vec3 | null {
  const foot = onAxis(sectors, p);
  if (distance(p, foot) <= within) return foot;
  let best: { at: Vec3; far: number } | null = null;
  for (const v of border)
    for (const k of [1, -1]) {
      const at = turnedOn(sectors, mesh.point(v), k);
      const far = distance(p, at);
      if (far <= within && (!best || far < best.far)) best = { at, far };
    }
  return best?.at ?? null;
}

/** Brings border points among some onto the seam where they come near it; gives how many lie on it now. Cost: those times the border. */
export function stickToSeam(mesh: PolyMesh, fresh: Iterable<number>, sectors: Sectors, within: number): number {
  const border = borderOf(mesh);
  let stuck = 0;
  for (const v of fresh) {
    const at = mesh.hasVertex(v) && mesh.isBorderVertex(v) ? ontoImage(mesh, sectors, mesh.point(v), within, border) : null; // prettier-ignore
    if (!at) continue;
    mesh.setPoint(v, at);
    stuck++;
  }
  return stuck;
}

/** Brings seam points exactly onto each other, half the way each, and hub points onto the axis; gives how many moved. */
export function evenSeam(mesh: PolyMesh, sectors: Sectors, { pairs, hub }: Seam): number {
  const moved = new Set<number>();
  const put = (v: number, p: Vec3): void => {
    if (distance(mesh.point(v), p) > 0) moved.add(v);
    mesh.setPoint(v, p);
  };
  for (const v of hub) put(v, onAxis(sectors, mesh.point(v)));
  for (const [v, w] of pairs) {
    const there = turnedOn(sectors, mesh.point(v), 1);
    if (distance(there, mesh.point(w)) <= 1e-12 * distance(there, sectors.about)) continue;
    const middle = lerp(there, mesh.point(w), 0.5);
    put(w, middle);
    put(v, turnedOn(sectors, middle, -1));
  }
  return moved.size;
}

/** Vertices near a place, at most `reach` off and some further. */
function nearTo(mesh: PolyMesh, vertices: readonly number[], reach: number): (p: Vec3) => number[] {
  const cellOf = (x: number): number => Math.floor(x / Math.max(reach, 1e-12));
  const cells = new Map<string, number[]>();
  for (const v of vertices) {
    const key = mesh.point(v).map(cellOf).join();
    cells.set(key, [...(cells.get(key) ?? []), v]);
  }
  const steps = [-1, 0, 1];
  return (p) => {
    const [i, j, k] = p.map(cellOf);
    return steps.flatMap((a) => steps.flatMap((b) => steps.flatMap((c) => cells.get([i + a, j + b, k + c].join()) ?? []))); // prettier-ignore
  };
}
