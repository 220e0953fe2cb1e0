import { expect, test } from 'vitest';
import { distance, meanPoint, type Vec3 } from '../math';
import { meshFromSoup } from '../mesh';
import { gridMesh } from '../testing';
import { shapeOf, shapeValues } from '.';

test('each face of a subdivided shape has the value of the face that it came from', () => {
  const mesh = gridMesh(4, 3);
  const faces = [...mesh.faces()];
  const middle = (f: number): Vec3 => meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v)));
  for (const levels of [0, 1, 2]) {
    const shape = meshFromSoup(shapeOf(mesh, levels)).mesh;
    const values = shapeValues(mesh, levels, faces);
    const made = [...shape.faces()];
    expect(values).toHaveLength(made.length);
    made.forEach((g, i) => {
      const at = meanPoint(shape.faceVertices(g).map((v) => shape.point(v)));
      // a grid's quads keep to their own square but at the border, which rounds off
      const nearest = faces.reduce((a, b) => (distance(middle(b), at) < distance(middle(a), at) ? b : a));
      expect(values[i]).toBe(nearest);
    });
  }
});
