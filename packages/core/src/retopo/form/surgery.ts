import { nextHalf, type TriMesh } from './TriMesh';

const NONE = -1;

/**
 * Cuts along the cycle of half-edges a, b, c, which bounds no triangle, and closes both sides with one: a handle goes, or a part comes off at its neck.
 * False, and nothing changed, where the cycle touches a border or itself.
 */
export function pinch(mesh: TriMesh, cycle: readonly [number, number, number]): boolean {
  const sectors: number[][] = [];
  for (let k = 0; k < 3; k++) {
    const [into, out] = [cycle[(k + 2) % 3], cycle[k]];
    if (mesh.twin[out] === NONE || mesh.isBorder(mesh.from[out])) return false;
    // the corners right of the cycle: clockwise from the edge that leaves to the one that arrives
    const sector: number[] = [];
    for (let h = nextHalf(mesh.twin[out]); h !== nextHalf(into); h = nextHalf(mesh.twin[h])) {
      if (sector.length > 64) return false;
      sector.push(h);
      if (mesh.twin[h] === into) break;
    }
    sectors.push(sector);
  }
  for (let k = 0; k < 2; k++) mesh.makeRoom();
  const twins = cycle.map((h) => mesh.twin[h]);
  const old = cycle.map((h) => mesh.from[h]);
  const made = old.map((v, k) => {
    const w = mesh.vertices++;
    mesh.points.copyWithin(3 * w, 3 * v, 3 * v + 3);
    mesh.facing.copyWithin(3 * w, 3 * v, 3 * v + 3);
    for (const h of sectors[k]) mesh.from[h] = w;
    return w;
  });
  // left: (v u w) against the cycle; right: along it
  cap(mesh, [old[1], old[0], old[2]], [cycle[0], cycle[2], cycle[1]]);
  cap(mesh, made, twins);
  old.forEach((v, k) => mesh.settleOut(v, cycle[k]));
  made.forEach((v, k) => mesh.settleOut(v, sectors[k][0]));
  return true;
}

function cap(mesh: TriMesh, corners: readonly number[], twins: readonly number[]): void {
  mesh.makeRoom();
  const t = 3 * mesh.triangles++;
  for (let k = 0; k < 3; k++) {
    mesh.from[t + k] = corners[k];
    mesh.twin[t + k] = twins[k];
    mesh.twin[twins[k]] = t + k;
    mesh.line[t + k] = mesh.line[twins[k]];
  }
}

/** What hangs together, each by itself, the largest first. Cost: linear. */
export function partsOf(mesh: TriMesh): { mesh: TriMesh; was: Int32Array }[] {
  const part = new Int32Array(mesh.triangles).fill(NONE);
  const sizes: number[] = [];
  for (let seed = 0; seed < mesh.triangles; seed++) {
    if (part[seed] !== NONE || !mesh.isAlive(seed)) continue;
    const queue = [seed];
    part[seed] = sizes.length;
    for (const t of queue)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const s = mesh.twin[h] === NONE ? NONE : Math.floor(mesh.twin[h] / 3);
        if (s === NONE || part[s] !== NONE) continue;
        part[s] = sizes.length;
        queue.push(s);
      }
    sizes.push(queue.length);
  }
  const order = [...sizes.keys()].sort((a, b) => sizes[b] - sizes[a]);
  return order.map((k) => mesh.compact((t) => part[t] === k));
}

/** Splits edges that join the same two points as another does, until none are left. Cost: linear. */
export function partDoubles(mesh: TriMesh): void {
  // vertex → the last one whose ring it was met in
  const seenFrom = new Int32Array(mesh.vertices).fill(NONE);
  const own: number[] = [];
  const isDoubled = (v: number): boolean => {
    for (const w of mesh.ring(v, own)) {
      if (w >= seenFrom.length || seenFrom[w] === v) return true;
      seenFrom[w] = v;
    }
    return false;
  };
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] === NONE || (v < seenFrom.length && !isDoubled(v))) continue;
    const met = new Set<number>();
    for (const h of mesh.fan(v)) {
      const w = mesh.to(h);
      if (met.has(w)) mesh.split(h);
      else met.add(w);
    }
    const ring = mesh.ring(v);
    const last = ring[ring.length - 1];
    if (ring.indexOf(last) < ring.length - 1) mesh.split(mesh.fan(v).find((h) => mesh.to(h) === last) as number);
  }
}

/** Takes the way each vertex faces from the triangles as they are. Cost: linear. */
export function faceForm(mesh: TriMesh): void {
  mesh.facing.set(normalsOf(mesh, mesh.points));
}

/** Unit normals of vertices by the area of the triangles round them, were they at `p`; f64[3·V]. Cost: linear. */
export function normalsOf(mesh: TriMesh, p: Float64Array): Float64Array {
  const { from } = mesh;
  const normals = new Float64Array(3 * mesh.vertices);
  for (let t = 0; t < mesh.triangles; t++) {
    if (!mesh.isAlive(t)) continue;
    const [a, b, c] = [3 * from[3 * t], 3 * from[3 * t + 1], 3 * from[3 * t + 2]];
    const ux = p[b] - p[a], uy = p[b + 1] - p[a + 1], uz = p[b + 2] - p[a + 2]; // prettier-ignore
    const vx = p[c] - p[a], vy = p[c + 1] - p[a + 1], vz = p[c + 2] - p[a + 2]; // prettier-ignore
    const x = uy * vz - uz * vy, y = uz * vx - ux * vz, z = ux * vy - uy * vx; // prettier-ignore
    for (const i of [a, b, c]) {
      normals[i] += x;
      normals[i + 1] += y;
      normals[i + 2] += z;
    }
  }
  for (let i = 0; i < normals.length; i += 3) {
    const l = Math.sqrt(normals[i] ** 2 + normals[i + 1] ** 2 + normals[i + 2] ** 2) || 1;
    for (let k = 0; k < 3; k++) normals[i + k] /= l;
  }
  return normals;
}
