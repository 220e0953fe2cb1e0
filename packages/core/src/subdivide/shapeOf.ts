import { soupFromMesh, type PolygonSoup, type PolyMesh } from '../mesh';
import { cageOf } from './cageOf';
import { subdivide } from './catmullClark';

/** A mesh as it stands, or its subdivided shape of so many levels; what is half stays half, its midline a border. Cost: the faces made. */
export const shapeOf = (mesh: PolyMesh, levels: number): PolygonSoup =>
  levels > 0 ? subdivide(cageOf(mesh, mesh.faces(), null), levels) : soupFromMesh(mesh);

/** What a face of the subdivided shape takes over from the face it came from, of one number each, in the order of `mesh.faces()`. Cost: the faces made. */
export const shapeValues = (mesh: PolyMesh, levels: number, values: ArrayLike<number>): Int32Array => {
  // a quad for each corner of a face, and then four for each
  const pieces = (f: number): number => (levels === 0 ? 1 : mesh.faceHalves(f).length * 4 ** (levels - 1));
  return Int32Array.from([...mesh.faces()].flatMap((f, i) => new Array<number>(pieces(f)).fill(values[i])));
};
