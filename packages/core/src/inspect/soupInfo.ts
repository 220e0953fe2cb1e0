import { boxOfSome, boxSize, type Vec3 } from '../math';
import { faceCountOf, type PolygonSoup } from '../mesh';

/** Faces over points in any kind of array: a soup, or a sculpt's triangles. */
type Faces = Pick<PolygonSoup, 'faceStarts' | 'corners'> & { positions: ArrayLike<number> };

/** What an import report needs: no more memory than a few numbers an edge, whatever the file's size. */
export interface SurfaceCounts {
  edges: number;
  components: number;
  borderLoops: number;
  borderEdges: number;
  nonManifoldEdges: number;
  min: Vec3;
  max: Vec3;
  size: Vec3;
}

/** What a file holds, in numbers; part of the command line's contract. */
export interface SoupInfo extends SurfaceCounts {
  vertices: number;
  faces: number;
  triangles: number;
  quads: number;
  ngons: number;
  /** faces by number of sides, larger ones than quads */
  ngonSides: Record<string, number>;
  trianglesDrawn: number;
  nonManifoldVertices: number;
  /** total over the components; null where open or not manifold */
  genus: number | null;
  /** inner vertices by number of edges, 4 left out */
  poles: Record<string, number>;
}

/** Edges of a soup: each pair of neighbours once, with how many faces it has. Open addressing, linear. */
interface EdgeTable {
  count: number;
  ends: Int32Array;
  uses: Uint8Array;
}

/** Counts edges, pieces and borders, and measures the box. Linear. */
export function surfaceCounts(faces: Faces): SurfaceCounts {
  return countsOf(faces, edgeTable(faces), countComponents(faces).components);
}

function countsOf({ positions, corners }: Faces, table: EdgeTable, components: number): SurfaceCounts {
  const border = borderEdges(table);
  let nonManifoldEdges = 0;
  for (let e = 0; e < table.count; e++) if (table.uses[e] > 2) nonManifoldEdges++;
  const box = boxOfSome(positions, corners);
  return {
    edges: table.count,
    components,
    borderLoops: countLoops(border),
    borderEdges: border.length,
    nonManifoldEdges,
    min: box.min,
    max: box.max,
    size: boxSize(box),
  };
}

/** Counts a soup. Vertices that no face uses are left out of everything but `vertices`. Linear. */
export function soupInfo(soup: PolygonSoup): SoupInfo {
  const table = edgeTable(soup);
  const { components, used } = countComponents(soup);
  const counts = countsOf(soup, table, components);
  const nonManifoldVertices = countFans(soup).nonManifold;
  const faces = faceCountOf(soup);
  const closed = counts.borderEdges + counts.nonManifoldEdges + nonManifoldVertices === 0;
  return {
    vertices: soup.positions.length / 3,
    faces,
    ...countSizes(soup),
    ...counts,
    nonManifoldVertices,
    genus: closed ? (2 * components - (used - table.count + faces)) / 2 : null,
    poles: countPoles(soup, table),
  };
}

type Sizes = Pick<SoupInfo, 'triangles' | 'quads' | 'ngons' | 'ngonSides' | 'trianglesDrawn'>;
function countSizes({ faceStarts }: PolygonSoup): Sizes {
  const sizes: Sizes = { triangles: 0, quads: 0, ngons: 0, ngonSides: {}, trianglesDrawn: 0 };
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const n = faceStarts[f + 1] - faceStarts[f];
    sizes.trianglesDrawn += n - 2;
    if (n === 3) sizes.triangles++;
    else if (n === 4) sizes.quads++;
    else {
      sizes.ngons++;
      sizes.ngonSides[n] = (sizes.ngonSides[n] ?? 0) + 1;
    }
  }
  return sizes;
}

function edgeTable({ faceStarts, corners }: Faces): EdgeTable {
  let capacity = 16;
  while (capacity < corners.length * 2) capacity *= 2;
  const slots = new Int32Array(capacity).fill(-1);
  const ends = new Int32Array(2 * corners.length);
  const uses = new Uint8Array(corners.length);
  let count = 0;
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const from = faceStarts[f],
      to = faceStarts[f + 1];
    for (let c = from; c < to; c++) {
      const u = corners[c],
        v = corners[c + 1 < to ? c + 1 : from];
      const a = Math.min(u, v),
        b = Math.max(u, v);
      let slot = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca77)) & (capacity - 1);
      for (;;) {
        const e = slots[slot];
        if (e < 0) {
          slots[slot] = count;
          ends[2 * count] = a;
          ends[2 * count + 1] = b;
          uses[count++] = 1;
          break;
        }
        if (ends[2 * e] === a && ends[2 * e + 1] === b) {
          if (uses[e] < 255) uses[e]++;
          break;
        }
        slot = (slot + 1) & (capacity - 1);
      }
    }
  }
  return { count, ends, uses };
}

function borderEdges({ count, ends, uses }: EdgeTable): [number, number][] {
  const border: [number, number][] = [];
  for (let e = 0; e < count; e++) if (uses[e] === 1) border.push([ends[2 * e], ends[2 * e + 1]]);
  return border;
}

/** Sets of border edges that hang together. */
function countLoops(border: [number, number][]): number {
  const sets = new DisjointSets();
  for (const [u, v] of border) sets.join(u, v);
  return new Set(border.map(([u]) => sets.find(u))).size;
}

class DisjointSets {
  private readonly parent = new Map<number, number>();
  find(a: number): number {
    let root = a;
    for (let p = this.parent.get(root); p !== undefined && p !== root; p = this.parent.get(root)) root = p;
    for (let x = a; x !== root;) {
      const p = this.parent.get(x) ?? root;
      this.parent.set(x, root);
      x = p;
    }
    return root;
  }
  join(a: number, b: number): void {
    const [x, y] = [this.find(a), this.find(b)];
    if (x !== y) this.parent.set(x, y);
  }
}

function countComponents({ positions, faceStarts, corners }: Faces): { components: number; used: number } {
  const parent = new Int32Array(positions.length / 3).fill(-1);
  const find = (a: number): number => {
    while (parent[a] !== a) {
      parent[a] = parent[parent[a]];
      a = parent[a];
    }
    return a;
  };
  for (const v of corners) parent[v] = v;
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const root = find(corners[faceStarts[f]]);
    for (let c = faceStarts[f] + 1; c < faceStarts[f + 1]; c++) parent[find(corners[c])] = root;
  }
  let components = 0,
    used = 0;
  for (let v = 0; v < parent.length; v++) {
    if (parent[v] >= 0) used++;
    if (parent[v] === v) components++;
  }
  return { components, used };
}

/** Vertices whose faces form more than one fan: corners joined where their faces share an edge at the vertex. */
function countFans({ positions, faceStarts, corners }: PolygonSoup): { nonManifold: number } {
  const around: (number[] | undefined)[] = new Array(positions.length / 3);
  for (let f = 0; f + 1 < faceStarts.length; f++) {
    const from = faceStarts[f],
      to = faceStarts[f + 1];
    for (let c = from; c < to; c++) {
      const list = (around[corners[c]] ??= []);
      list.push(corners[c === from ? to - 1 : c - 1], corners[c + 1 < to ? c + 1 : from]);
    }
  }
  let nonManifold = 0;
  for (const pairs of around) if (pairs && fansOf(pairs) > 1) nonManifold++;
  return { nonManifold };
}

function fansOf(pairs: number[]): number {
  const open = new Set<number>();
  for (let i = 0; i < pairs.length; i += 2) open.add(i);
  let fans = 0;
  for (const first of open) {
    fans++;
    open.delete(first);
    const reached = [pairs[first], pairs[first + 1]];
    for (let grown = true; grown;) {
      grown = false;
      for (const i of open) {
        if (!reached.includes(pairs[i]) && !reached.includes(pairs[i + 1])) continue;
        reached.push(pairs[i], pairs[i + 1]);
        open.delete(i);
        grown = true;
      }
    }
  }
  return fans;
}

function countPoles({ positions }: PolygonSoup, { count, ends, uses }: EdgeTable): Record<string, number> {
  const valence = new Uint16Array(positions.length / 3);
  const inner = new Uint8Array(positions.length / 3).fill(1);
  for (let i = 0; i < 2 * count; i++) {
    valence[ends[i]]++;
    if (uses[i >> 1] !== 2) inner[ends[i]] = 0;
  }
  const poles: Record<string, number> = {};
  valence.forEach((n, v) => {
    if (n > 0 && n !== 4 && inner[v]) poles[n] = (poles[n] ?? 0) + 1;
  });
  return poles;
}
