import { TopologyError } from '../errors';
import { NONE, type PolyMesh } from './PolyMesh';

/**
 * Turns whole parts over in place, so that they face the other way: no element is made or goes, and attributes stay with their face, edge,
 * vertex and corner. Throws NO_WAY where a face hangs on them by a vertex that is not to be turned. Cost: the parts.
 */
export function turnOver(mesh: PolyMesh, faces: Iterable<number>): void {
  const own = new Set(faces);
  const halves = halvesAround(mesh, own);
  // every half-edge takes the place that its twin had, run through backward
  const [after, face] = [new Int32Array(halves.length), new Int32Array(halves.length)];
  for (let i = 0; i < halves.length; i++) {
    after[i] = mesh.prev(halves[i] ^ 1) ^ 1;
    face[i] = mesh.face(halves[i] ^ 1);
  }
  // a corner is held by the half-edge that leaves it
  const columns = mesh.channelColumns('corner');
  const corners = columns.map((c) => halves.map((h) => c.data.slice(h * c.stride, (h + 1) * c.stride)));
  const corner = columns.length > 0 ? halves.map((h) => mesh.prev(h) ^ 1) : [];
  for (const f of own) mesh.faceHalf.set(f, mesh.faceHalf.data[f] ^ 1);
  for (let i = 0; i < halves.length; i++) {
    mesh.link(halves[i], after[i]);
    mesh.halfFace.set(halves[i], face[i]);
  }
  columns.forEach((c, k) => corners[k].forEach((row, i) => row.forEach((value, j) => c.set(corner[i], value, j))));
}

/** All half-edges that hang together with faces by vertices. */
function halvesAround(mesh: PolyMesh, faces: ReadonlySet<number>): number[] {
  const seen = new Set<number>();
  for (const f of faces) for (const v of mesh.faceVertices(f)) seen.add(v);
  const halves: number[] = [];
  // what is added on the way is walked too
  for (const v of seen)
    for (const h of mesh.vertexHalves(v)) {
      const f = mesh.face(h);
      if (f !== NONE && !faces.has(f))
        throw new TopologyError('NO_WAY', 'A part can only be turned over as a whole.', { faces: [f] });
      halves.push(h);
      seen.add(mesh.target(h));
    }
  return halves;
}
