import { NONE, type PolyMesh } from './PolyMesh';

/**
 * Every rule the structure must keep, tested link by link; returns what is broken, in words, empty when
 * sound. Tests call it after every operator. Cost: the whole mesh.
 */
export function checkInvariants(mesh: PolyMesh): string[] {
  const broken: string[] = [];
  const fail = (what: string): void => {
    if (broken.length < 20) broken.push(what);
  };
  checkCounts(mesh, fail);
  checkHalves(mesh, fail);
  if (broken.length > 0) return broken;
  checkFaces(mesh, fail);
  checkVertices(mesh, fail);
  return broken;
}

function checkCounts(mesh: PolyMesh, fail: (what: string) => void): void {
  const live = [[...mesh.vertices()].length, [...mesh.edges()].length, [...mesh.faces()].length];
  const said = [mesh.vertexCount, mesh.edgeCount, mesh.faceCount];
  if (live.some((n, i) => n !== said[i])) fail(`counts say ${said}, there are ${live}`);
  for (let k = 0; k < 3; k++) {
    const links = [mesh.vertexHalf, mesh.halfOrigin, mesh.faceHalf][k];
    const rows = [mesh.vertexRows, mesh.edgeRows, mesh.faceRows][k];
    let free = 0;
    for (let id = mesh.counters.data[3 + k]; id !== NONE && free <= rows; free++)
      id = -3 - links.data[k === 1 ? 2 * id : id];
    if (free !== rows - live[k]) fail(`free list ${k} has ${free} of ${rows - live[k]}`);
  }
}

function checkHalves(mesh: PolyMesh, fail: (what: string) => void): void {
  for (const e of mesh.edges()) {
    if (mesh.origin(2 * e) === mesh.origin(2 * e + 1)) fail(`edge ${e} begins where it ends`);
    for (const h of [2 * e, 2 * e + 1]) {
      const n = mesh.next(h);
      if (!mesh.hasVertex(mesh.origin(h))) fail(`half ${h} leaves a vertex that is gone`);
      if (n < 0 || !mesh.hasEdge(n >> 1)) fail(`half ${h} has no next`);
      else if (mesh.prev(n) !== h) fail(`half ${h}: prev(next) is ${mesh.prev(n)}`);
      else if (mesh.origin(n) !== mesh.target(h)) fail(`half ${h}: next leaves another vertex`);
      else if (mesh.face(n) !== mesh.face(h)) fail(`half ${h}: next lies on another face`);
      if (mesh.face(h) !== NONE && !mesh.hasFace(mesh.face(h))) fail(`half ${h} lies on a face that is gone`);
    }
  }
}

function checkFaces(mesh: PolyMesh, fail: (what: string) => void): void {
  let onFaces = 0;
  for (const f of mesh.faces()) {
    const halves = mesh.faceHalves(f);
    onFaces += halves.length;
    if (halves.length < 3) fail(`face ${f} has ${halves.length} corners`);
    if (halves.some((h) => mesh.face(h) !== f)) fail(`face ${f} is not the face of its own halves`);
    const corners = halves.map((h) => mesh.origin(h));
    if (new Set(corners).size !== corners.length) fail(`face ${f} uses a vertex twice`);
  }
  let linked = 0;
  for (const e of mesh.edges()) for (const h of [2 * e, 2 * e + 1]) if (mesh.face(h) !== NONE) linked++;
  if (linked !== onFaces) fail(`${linked} halves say they lie on faces, faces hold ${onFaces}`);
}

function checkVertices(mesh: PolyMesh, fail: (what: string) => void): void {
  const out = new Map<number, number>();
  const pairs = new Set<number>();
  for (const e of mesh.edges()) {
    const [u, v] = [mesh.origin(2 * e), mesh.origin(2 * e + 1)];
    out.set(u, (out.get(u) ?? 0) + 1);
    out.set(v, (out.get(v) ?? 0) + 1);
    const key = Math.min(u, v) * mesh.vertexRows + Math.max(u, v);
    if (pairs.has(key)) fail(`two edges between ${u} and ${v}`);
    pairs.add(key);
  }
  for (const v of mesh.vertices()) {
    const halves = mesh.vertexHalves(v);
    if (halves.some((h) => mesh.origin(h) !== v)) fail(`vertex ${v}: a half in its turn leaves another vertex`);
    if (halves.length !== (out.get(v) ?? 0))
      fail(`vertex ${v}: its turn has ${halves.length} of ${out.get(v) ?? 0} halves`);
    const gaps = halves.filter((h) => mesh.face(h) === NONE).length;
    if (halves.length > 0 && gaps === 0 && new Set(halves.map((h) => mesh.face(h))).size !== halves.length)
      fail(`vertex ${v}: a face twice in a closed fan`);
  }
}
