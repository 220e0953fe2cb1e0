import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross, dot, length, sub, type Vec3 } from '../math';
import { areaNormal, quadDiagonal, soupNormals, triangulate } from '.';
import { faceNormal, vertexNormal } from './normals';
import { cubeMesh } from '../testing';
import { ballSoup } from '../testing';

const area = (p: readonly Vec3[], cut: number[]): number => {
  let sum = 0;
  for (let i = 0; i < cut.length; i += 3)
    sum += length(cross(sub(p[cut[i + 1]], p[cut[i]]), sub(p[cut[i + 2]], p[cut[i]]))) / 2;
  return sum;
};

describe('the one triangulation', () => {
  it('covers a flat polygon exactly, concave ones too, with n − 2 triangles that fold nothing', () => {
    const star = fc.array(fc.double({ min: 0.3, max: 3, noNaN: true }), { minLength: 4, maxLength: 12 });
    fc.assert(
      fc.property(star, (radii) => {
        const p = radii.map((r, i): Vec3 => [
          r * Math.cos((2 * Math.PI * i) / radii.length),
          r * Math.sin((2 * Math.PI * i) / radii.length),
          0,
        ]);
        const cut = triangulate(p);
        expect(cut).toHaveLength(3 * (p.length - 2));
        expect(area(p, cut)).toBeCloseTo(length(areaNormal(p)) / 2, 6);
      }),
    );
  });
  it('cuts a concave quad at its notch and a bent one where it bends least', () => {
    const arrow: Vec3[] = [[0, 0, 0], [2, -1, 0], [0.4, 0, 0], [2, 1, 0]]; // prettier-ignore
    expect(quadDiagonal(arrow)).toBe(0);
    expect(quadDiagonal([...arrow.slice(1), arrow[0]])).toBe(1);
    const roof: Vec3[] = [[0, 0, 0], [1, 0, 0.5], [1, 1, 0], [0, 1, 0.5]]; // prettier-ignore
    const [a, b] = [quadDiagonal(roof), quadDiagonal([...roof.slice(1), roof[0]])];
    expect(a + b).toBe(1);
    expect(dot(areaNormal(roof), [0, 0, 1])).toBeGreaterThan(0);
  });
  it('takes the same diagonal wherever a quad’s list begins', () => {
    const corner = fc.tuple(...[0, 1, 2].map(() => fc.integer({ min: -4, max: 4 }))) as fc.Arbitrary<
      [number, number, number]
    >;
    fc.assert(
      fc.property(fc.array(corner, { minLength: 4, maxLength: 4 }), (p) => {
        fc.pre(length(areaNormal(p)) > 1e-3);
        const ends = (q: Vec3[]): string =>
          (quadDiagonal(q) === 0 ? [q[0], q[2]] : [q[1], q[3]]).map(String).sort().join(' ');
        const turned = [...p.slice(1), p[0]];
        fc.pre(new Set([p[0], p[1], p[2], p[3]].map(String)).size === 4);
        expect(ends(turned)).toBe(ends(p));
      }),
    );
  });
});

describe('normals', () => {
  it('point straight out of a cube’s faces and along its corners', () => {
    const mesh = cubeMesh();
    for (const f of mesh.faces()) expect(length(faceNormal(mesh, f))).toBeCloseTo(1, 12);
    for (const v of mesh.vertices()) {
      const n = vertexNormal(mesh, v);
      mesh.point(v).forEach((x, k) => expect(n[k]).toBeCloseTo(x / Math.sqrt(3), 9));
    }
  });
  it('of a ball’s points are the points themselves', () => {
    const ball = ballSoup(24);
    const normals = soupNormals(ball);
    for (let i = 0; i < normals.length; i++) expect(normals[i]).toBeCloseTo(ball.positions[i], 1);
  });
});
