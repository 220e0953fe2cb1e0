import { soupFromMesh, type PolygonSoup, type PolyMesh } from '../mesh';
import { cageOf } from './cageOf';
import { subdivide } from './catmullClark';

/** A mesh as it stands, or its subdivided shape of so many levels; what is half stays half, its midline a border. Cost: the faces made. */
export const shapeOf = (mesh: PolyMesh, levels: number): PolygonSoup =>
  levels > 0 ? subdivide(cageOf(mesh, mesh.faces(), null), levels) : soupFromMesh(mesh);
