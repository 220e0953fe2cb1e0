import * as z from 'zod/mini';
import { add, boxOf, scale, sub, type Box, type Vec3 } from '../../math';
import type { PolyMesh, Selection } from '../../mesh';
import { settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { count, Point } from '../params';
import { only, verticesOf } from '../picked';

const Params = z.object({
  nx: count('Points along x', { min: 2, max: 8, start: 3 }),
  ny: count('Points along y', { min: 2, max: 8, start: 3 }),
  nz: count('Points along z', { min: 2, max: 8, start: 3 }),
  /** how far each control point that was moved is from its place, file units; by its place, such as '0,2,1' */
  moves: z._default(z.record(z.string(), Point), {}),
});
type Counts = Pick<z.infer<typeof Params>, 'nx' | 'ny' | 'nz'>;

/** The box that a lattice spans: what is picked, or everything, a little wider where it is flat. */
export function latticeBox(mesh: PolyMesh, selection: Selection): Box {
  const picked = verticesOf(mesh, selection);
  const box = boxOf([...(picked.size > 0 ? picked : mesh.vertices())].flatMap((v) => [...mesh.point(v)]));
  const most = Math.max(...[0, 1, 2].map((k) => box.max[k] - box.min[k]), 1e-9);
  const pad = [0, 1, 2].map((k) => Math.max(0, 0.02 * most - (box.max[k] - box.min[k])) / 2);
  return {
    min: box.min.map((x, k) => x - pad[k]) as unknown as Vec3,
    max: box.max.map((x, k) => x + pad[k]) as unknown as Vec3,
  };
}

/** Where the control points of a lattice are before they are moved, by place. */
export function latticePoints({ min, max }: Box, { nx, ny, nz }: Counts): Map<string, Vec3> {
  const at = (k: number, i: number, n: number): number => min[k] + ((max[k] - min[k]) * i) / (n - 1);
  const points = new Map<string, Vec3>();
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++) points.set(`${i},${j},${k}`, [at(0, i, nx), at(1, j, ny), at(2, k, nz)]);
  return points;
}

/**
 * Shapes what is picked, or everything, by a lattice of control points over its box: each point goes where Bernstein weights of the moves
 * take it (Sederberg and Parry 1986). Cost: the points times the control points that were moved.
 */
export const lattice = operator({
  name: 'lattice',
  title: 'Lattice',
  params: Params,
  run(mesh, selection, p, ground) {
    const picked = verticesOf(mesh, selection);
    const vertices = picked.size > 0 ? [...picked] : [...mesh.vertices()];
    const box = latticeBox(mesh, selection);
    const size = sub(box.max, box.min);
    const moves = Object.entries(p.moves).flatMap(([key, by]): { i: number; j: number; k: number; by: Vec3 }[] => {
      const [i, j, k] = key.split(',').map(Number);
      return i < p.nx && j < p.ny && k < p.nz ? [{ i, j, k, by }] : [];
    });
    const places = vertices.map((v): Vec3 => {
      const q = mesh.point(v);
      const [u, w, t] = [0, 1, 2].map((k) => (size[k] > 0 ? (q[k] - box.min[k]) / size[k] : 0));
      const [bu, bw, bt] = [bernstein(p.nx, u), bernstein(p.ny, w), bernstein(p.nz, t)];
      let to = q;
      for (const { i, j, k, by } of moves) to = add(to, scale(by, bu[i] * bw[j] * bt[k]));
      return to;
    });
    vertices.forEach((v, i) => mesh.setPoint(v, settledPlace(mesh.point(v), places[i], { ...ground, form: null })));
    return {
      selection: picked.size > 0 ? selection : only({}),
      report: {
        sentence: `${plural(vertices.length, 'point')} shaped by ${plural(moves.length, 'control point')}`,
        counts: { vertices: vertices.length, moved: moves.length },
      },
    };
  },
});

/** The n Bernstein weights at t. */
function bernstein(n: number, t: number): number[] {
  const weights = [1];
  for (let d = 1; d < n; d++)
    for (let i = d; i >= 0; i--) weights[i] = (weights[i] ?? 0) * (1 - t) + (i > 0 ? weights[i - 1] * t : 0);
  return weights;
}
