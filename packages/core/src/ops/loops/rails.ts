import { addScaled, dot, mirrored, normalize, sub, type Vec3 } from '../../math';
import { NONE, vertexNormal, type Chain, type PolyMesh } from '../../mesh';
import { onMidline, type Ground } from '../ground';

/** A vertex of a chain and the edges that leave it to both sides; NONE where a side has none. */
export interface Rails {
  vertex: number;
  left: number;
  right: number;
}

/** The sides of every vertex of a chain, left and right as one walks it. Cost: the valences. */
export function railsOf(mesh: PolyMesh, chain: Chain): Rails[] {
  const { vertices, halves, closed } = chain;
  return vertices.map((vertex, i) => {
    const out = halves[i] ?? NONE;
    const before = i > 0 ? halves[i - 1] : closed ? halves[halves.length - 1] : NONE;
    if (out !== NONE && before !== NONE)
      return {
        vertex,
        left: middleOf(turnFrom(mesh, out, before ^ 1)),
        right: middleOf(turnFrom(mesh, before ^ 1, out)),
      };
    const end = out !== NONE ? out : before ^ 1;
    const left = mesh.face(end) === NONE ? NONE : mesh.prev(end) ^ 1;
    const right = mesh.face(end ^ 1) === NONE ? NONE : mesh.next(end ^ 1);
    if (left === right) return { vertex, left: NONE, right: NONE };
    return out !== NONE ? { vertex, left, right } : { vertex, left: right, right: left };
  });
}

/** Half-edges out of a vertex strictly between two of them, counter-clockwise, up to a gap. */
function turnFrom(mesh: PolyMesh, from: number, to: number): number[] {
  const found: number[] = [];
  for (let h = from; mesh.face(h) !== NONE;) {
    h = mesh.prev(h) ^ 1;
    if (h === to) return found;
    found.push(h);
  }
  return found;
}

const middleOf = (halves: number[]): number => (halves.length === 0 ? NONE : halves[(halves.length - 1) >> 1]);

/**
 * The half-edge that goes straight on at the end of h: through an inner vertex with four edges, or along a border past
 * one edge that meets it; NONE elsewhere.
 */
export function straightOn(mesh: PolyMesh, h: number): number {
  const v = mesh.target(h);
  if (mesh.isBorderEdge(h >> 1)) {
    if (mesh.valence(v) !== 3) return NONE;
    return mesh.face(h) === NONE ? mesh.next(h) : mesh.prev(h ^ 1) ^ 1;
  }
  return mesh.valence(v) === 4 && !mesh.isBorderVertex(v) ? mesh.next(mesh.next(h) ^ 1) : NONE;
}

/**
 * The next point across beyond the end of h: straight on, or the mirror image of its start on the midline. At a pole inside,
 * where no edge goes straight on, a point that makes the curve leave square to the normal there.
 */
export function beyond(mesh: PolyMesh, h: number, ground: Ground): Vec3 | null {
  const on = straightOn(mesh, h);
  if (on !== NONE) return mesh.point(mesh.target(on));
  const { plane } = ground;
  const [from, v] = [mesh.point(mesh.origin(h)), mesh.target(h)];
  if (plane && onMidline(mesh, v, ground)) return mirrored(from, plane);
  if (mesh.isBorderVertex(v)) return null;
  const p = mesh.point(v),
    n = vertexNormal(mesh, v);
  const chord = sub(p, from);
  const tangent = normalize(addScaled(chord, n, -dot(chord, n)));
  return addScaled(from, tangent, 2 * dot(chord, tangent));
}
