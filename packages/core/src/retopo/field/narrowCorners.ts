import { nextHalf, prevHalf, type TriMesh } from '../form/TriMesh';
import { cornerAngle, rise, type CrossField } from './field';

/** Lines that meet at less than this are narrow: crosses along one would be taken for crosses along the other. Radians. */
const NARROW = (50 * Math.PI) / 180;
/** So many edges between them are split, one after the other. */
const CHORDS = 24;
const NONE = -1;

/** What lies between two lines, or borders, that meet at a vertex. */
export interface Sector {
  v: number;
  /** half-edges that leave the vertex between the lines */
  inner: number[];
  /** so many quads meet there by the crosses, in full quarters; none or fewer where lines run into each other */
  quads: number;
}

/** Sectors that have no quad of their own though their lines meet: in a grid both would lie on one line, and all between them would be flat. Cost: the vertices. */
export function flatSectors(mesh: TriMesh, field: CrossField): Sector[] {
  const found: Sector[] = [];
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] < 0 || !(mesh.isBorder(v) || mesh.isOnLine(v))) continue;
    for (const halves of sectorsAt(mesh, v)) {
      const sector = { v, inner: halves.slice(1), quads: quadsIn(mesh, field, halves) };
      if (sector.quads < 1) found.push(sector);
    }
  }
  return found;
}

/** Of each sector at a vertex, the half-edges that leave it, in turn: the first runs along a line. None where fewer than two lines meet. */
function sectorsAt(mesh: TriMesh, v: number): number[][] {
  let fan = mesh.fan(v);
  const isLine = (h: number): boolean => mesh.line[h] >= 0 || (mesh.twin[h] < 0 && mesh.from[h] === v);
  const first = fan.findIndex(isLine);
  if (first < 0) return [];
  if (!mesh.isBorder(v)) fan = [...fan.slice(first), ...fan.slice(0, first)];
  const sectors: number[][] = [];
  for (const h of fan)
    if (isLine(h)) sectors.push([h]);
    else sectors[sectors.length - 1]?.push(h);
  // one line that ends in the surface has all round it
  return sectors.length > 1 || mesh.isBorder(v) ? sectors : [];
}

/** Quarters that crosses turn by from the line at one side of a sector to that at the other, as they are carried across it. */
function quadsIn(mesh: TriMesh, field: CrossField, halves: readonly number[]): number {
  const quarter = Math.PI / 2;
  let turn = 0;
  halves.forEach((h, i) => {
    turn += between(field, h);
    if (i > 0) turn -= rise(mesh, field, mesh.twin[h]) - field.quarter[mesh.twin[h]] * quarter;
  });
  const last = prevHalf(halves[halves.length - 1]);
  const off = (h: number): number => {
    const way = field.direction[h] - field.angle[Math.floor(h / 3)];
    return way - quarter * Math.round(way / quarter);
  };
  return Math.round((turn + off(halves[0]) - off(last)) / quarter);
}

/** The angle of a triangle where a half-edge leaves its vertex. */
const between = ({ direction }: CrossField, h: number): number => {
  const back = direction[prevHalf(h)] + Math.PI - direction[h];
  return back - 2 * Math.PI * Math.floor(back / (2 * Math.PI));
};

/**
 * Splits edges that run from line to line between two lines that meet narrowly, one after the other from where these meet: what runs along both cannot be told in one triangle, and poles need a point to stand on. `marks`
 * of new points are 0. Changes both. Cost: the triangles.
 */
export function openNarrowCorners(mesh: TriMesh, marks: number[]): void {
  for (let h = 0, all = 3 * mesh.triangles; h < all; h++) {
    if (!mesh.isAlive(Math.floor(h / 3)) || mesh.line[h] < 0 || mesh.line[prevHalf(h)] < 0) continue;
    if (cornerAngle(mesh.points, mesh.from[h], mesh.to(h), mesh.from[prevHalf(h)], null) > NARROW) continue;
    for (let chord = nextHalf(h), i = 0; i < CHORDS && chord >= 0; i++) chord = opened(mesh, chord);
    while (marks.length < mesh.vertices) marks.push(0);
  }
}

/** Splits an edge from line to line; gives the next one beyond it, −1 where there is none. */
function opened(mesh: TriMesh, chord: number): number {
  const bound = (v: number): boolean => mesh.isBorder(v) || mesh.isOnLine(v);
  const beyond = mesh.twin[chord];
  if (mesh.line[chord] >= 0 || beyond < 0) return NONE;
  const far = [nextHalf(beyond), prevHalf(beyond)];
  const next = far.filter((h) => mesh.line[h] < 0 && bound(mesh.from[h]) && bound(mesh.to(h)));
  const goesOn = next.length === 1 && far.some((h) => mesh.line[h] >= 0);
  const ends = goesOn ? [mesh.from[next[0]], mesh.to(next[0])] : [];
  mesh.split(chord);
  // splitting may have given its halves other numbers
  return goesOn ? (mesh.fan(ends[0]).find((h) => mesh.to(h) === ends[1]) ?? NONE) : NONE;
}
