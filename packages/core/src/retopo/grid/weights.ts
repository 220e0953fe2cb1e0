import { nextHalf, prevHalf } from '../form/TriMesh';

/** No corner counts as sharper than one with this cotangent: thin triangles would hold all. */
const SHARP = 5;
/** Triangles that are flat have no cotangents: this stands for them. */
const FLAT = 1e9;

/**
 * Weights of the steps along triangles' edges in a grid, f64[6·T], for each half-edge one of either axis: what all its steps are off, squared, times these, is a triangle's area times what its map's gradients are
 * off, squared: across an axis, where quads come out askew, once, and along it, where they come out longer or shorter, `lengths` times (the anisotropic norm of Bommes et al. 2009). `wish` has the steps that are
 * wanted, which close round each triangle, f64[6·T]. The weights are half the cotangents of triangles that are drawn out along the axis: some are less than nothing, no triangle's sum is. Cost: linear.
 */
export function weightsOf(wish: Float64Array, lengths: number): Float64Array {
  const weights = new Float64Array(wish.length);
  const out = 1 / Math.sqrt(lengths);
  for (let first = 0; first < wish.length / 2; first += 3)
    for (let axis = 0; axis < 2; axis++) {
      const x = (h: number): number => wish[2 * h] * (axis === 0 ? out : 1);
      const y = (h: number): number => wish[2 * h + 1] * (axis === 1 ? out : 1);
      const cotangents = [first, first + 1, first + 2].map((h) => {
        const [a, b] = [nextHalf(h), prevHalf(h)];
        const along = x(a) * x(b) + y(a) * y(b);
        return -along / Math.max(1e-300, Math.abs(along) / FLAT, Math.abs(x(a) * y(b) - y(a) * x(b)));
      });
      const by = SHARP / Math.max(SHARP, ...cotangents) / (2 * out);
      cotangents.forEach((cot, k) => (weights[2 * (first + k) + axis] = by * cot));
    }
  return weights;
}
