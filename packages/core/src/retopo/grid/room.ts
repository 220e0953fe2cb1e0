import type { TriMesh } from '../form/TriMesh';

/** Where the map has less than this share of the area that is wanted, it has collapsed. */
const COLLAPSED = 0.3;
/** A collapsed patch where fewer quads than this are wanted is a pole's own. */
const LIMB = 0.8;
/** Quads of a collapsed patch are made smaller by this, those of the next triangles out by less. */
const SMALLER = [0.72, 0.8, 0.88, 0.94];
/** In all no smaller than this. */
const SMALLEST = 0.35;

/**
 * How much smaller quads should be round patches that a map has flattened though quads are wanted there: limbs and rims whose poles were rounded onto each other.
 * Triangle → a factor; `areas` are those in the map, `shrunk` what was taken off before. Cost: the triangles.
 */
export function roomFor(
  mesh: TriMesh,
  areas: Float64Array,
  wanted: Float64Array,
  shrunk: Float64Array,
): Map<number, number> {
  const isFlat = (t: number): boolean => areas[t] < COLLAPSED * wanted[t];
  const beside = (t: number): number[] =>
    [3 * t, 3 * t + 1, 3 * t + 2].map((h) => mesh.twin[h]).filter((g) => g >= 0).map((g) => Math.floor(g / 3)); // prettier-ignore
  const seen = new Uint8Array(areas.length);
  let ring: number[] = [];
  for (let seed = 0; seed < areas.length; seed++) {
    if (seen[seed] || !isFlat(seed)) continue;
    const patch = [seed];
    seen[seed] = 1;
    for (const t of patch)
      for (const s of beside(t)) {
        if (seen[s] || !isFlat(s)) continue;
        seen[s] = 1;
        patch.push(s);
      }
    const quads = patch.reduce((sum, t) => sum + wanted[t], 0);
    if (quads >= LIMB && shrunk[seed] > SMALLEST) ring.push(...patch);
  }
  const found = new Map<number, number>();
  for (const by of SMALLER) {
    for (const t of ring) found.set(t, by);
    ring = [...new Set(ring.flatMap(beside))].filter((t) => !found.has(t));
  }
  return found;
}
