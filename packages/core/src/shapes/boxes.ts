import { normalize, scale, type Vec3 } from '../math';
import { ShapeBuilder, type Shape } from './Shape';

/** A grid over the faces of a box, points shared; `place` puts a point given by its cell on each axis. */
function boxGrid(cells: readonly [number, number, number], place: (cell: Vec3) => Vec3): Shape {
  const shape = new ShapeBuilder();
  const known = new Map<string, number>();
  const at = (cell: [number, number, number]): number => {
    const key = cell.join();
    const v = known.get(key) ?? shape.point(place(cell));
    known.set(key, v);
    return v;
  };
  for (const axis of [0, 1, 2])
    for (const far of [false, true]) {
      const u = (axis + 1) % 3, v = (axis + 2) % 3; // prettier-ignore
      const corner = (i: number, j: number): number => {
        const cell: [number, number, number] = [0, 0, 0];
        cell[axis] = far ? cells[axis] : 0;
        cell[u] = i;
        cell[v] = j;
        return at(cell);
      };
      for (let j = 0; j < cells[v]; j++)
        for (let i = 0; i < cells[u]; i++) {
          const quad = [corner(i, j), corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)];
          shape.faces.push(far ? quad : quad.reverse());
        }
    }
  return shape;
}

/** A box on the floor, so many quads along each side. Sizes along x, y and z. */
export const box = (size: Vec3, cells: readonly [number, number, number]): Shape =>
  boxGrid(cells, (c) => [
    (c[0] / cells[0] - 0.5) * size[0],
    (c[1] / cells[1]) * size[1],
    (c[2] / cells[2] - 0.5) * size[2],
  ]);

/**
 * A ball without poles of many edges: the grid of a box rounded up, `cells` along each side; eight points of three edges. Lines run
 * at equal angles, so that faces differ in size by less than two.
 */
export function ball(radius: number, cells: number): Shape {
  const angle = (i: number): number => Math.tan(((i / cells) * 2 - 1) * (Math.PI / 4));
  return boxGrid([cells, cells, cells], (c) => {
    const p = scale(normalize([angle(c[0]), angle(c[1]), angle(c[2])]), radius);
    return [p[0], p[1] + radius, p[2]];
  });
}

/** A flat grid on the floor, facing up, open at its rim. */
export function sheet(width: number, depth: number, columns: number, rows: number): Shape {
  const shape = new ShapeBuilder();
  const lines = Array.from({ length: rows + 1 }, (_, j) =>
    Array.from({ length: columns + 1 }, (_, i) =>
      shape.point([(i / columns - 0.5) * width, 0, (0.5 - j / rows) * depth]),
    ),
  );
  for (let j = 0; j < rows; j++) shape.join(lines[j], lines[j + 1], false);
  return shape;
}
