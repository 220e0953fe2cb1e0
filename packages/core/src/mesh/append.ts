import { addFace, addVertex } from './build';
import { NONE, PolyMesh } from './PolyMesh';

/**
 * Adds faces of another mesh, all of them unless some are named, with every attribute. Channels that are missing here are made. Returns the
 * new faces, in order. Cost: the faces.
 */
export function appendFaces(target: PolyMesh, source: PolyMesh, faces: Iterable<number> = source.faces()): number[] {
  const columns = source.channelSpecs().map((spec) => ({
    domain: spec.domain,
    stride: spec.stride,
    from: source.channel(spec),
    to: target.channel(spec),
  }));
  const carry = (domain: string, row: number, to: number): void => {
    for (const c of columns)
      if (c.domain === domain) for (let k = 0; k < c.stride; k++) c.to.set(to, c.from.get(row, k), k);
  };
  const copy = new Map<number, number>();
  const at = (v: number): number => {
    const known = copy.get(v);
    if (known !== undefined) return known;
    const w = addVertex(target, source.point(v));
    copy.set(v, w);
    carry('vertex', v, w);
    return w;
  };
  const list = [...faces];
  return list.map((f) => {
    const halves = source.faceHalves(f);
    const g = addFace(target, halves.map((h) => at(source.origin(h)))); // prettier-ignore
    carry('face', f, g);
    for (const h of halves) {
      const twin = target.findHalf(at(source.origin(h)), at(source.target(h)));
      carry('corner', h, twin);
      if (twin !== NONE) carry('edge', h >> 1, twin >> 1);
    }
    return g;
  });
}

/** Several meshes as one, each a part of its own; loose edges stay behind. */
export function joinedMeshes(meshes: readonly PolyMesh[]): PolyMesh {
  const all = new PolyMesh();
  for (const mesh of meshes) appendFaces(all, mesh);
  return all;
}
