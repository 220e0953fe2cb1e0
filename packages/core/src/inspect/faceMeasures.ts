import { dot, length, normalize, sub, type Vec3 } from '../math';
import { areaNormal, cornerQuality, faceCountOf, type PolygonSoup } from '../mesh';

/** One face in the numbers of topology.md. */
export interface FaceMeasure {
  /** units² */
  area: number;
  /** least of the corners' (e1 × e2)·n / (|e1||e2|): 1 square, 0 degenerate, below 0 folded */
  cornerQuality: number;
  /** greatest distance of a corner from the mean plane, over the mean edge length */
  warp: number;
  /** longest edge over shortest; Infinity with an edge of no length */
  stretch: number;
}

export function soupPoints({ positions: p, corners, faceStarts }: PolygonSoup, f: number): Vec3[] {
  return [...corners.subarray(faceStarts[f], faceStarts[f + 1])].map((v) => [p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
}

/** Measures a polygon. Cost: its corners. */
export function measureFace(points: readonly Vec3[]): FaceMeasure {
  const sum = areaNormal(points);
  const n = normalize(sum);
  const edges = points.map((a, i) => sub(points[(i + 1) % points.length], a));
  const lengths = edges.map(length);
  const mean = lengths.reduce((a, b) => a + b, 0) / lengths.length;
  const centre = [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / points.length) as unknown as Vec3;
  return {
    area: length(sum) / 2,
    cornerQuality: cornerQuality(points),
    warp: mean > 0 ? Math.max(...points.map((p) => Math.abs(dot(sub(p, centre), n)))) / mean : 0,
    stretch: Math.max(...lengths) / Math.min(...lengths),
  };
}

/** A mesh in numbers; null where there is nothing to measure. */
export interface MeshMeasures {
  quadShare: number;
  /** inner points with other than four edges / inner points */
  irregularShare: number | null;
  /** over quads */
  cornerQuality: { least: number; mean: number } | null;
  warp: { most: number; mean: number } | null;
  /** standard deviation / mean of edge lengths */
  evenness: number;
  stretch: { most: number; mean: number };
}

/** Linear. `inner`, `irregular`: points off the border, and those of them with other than four edges. */
export function measureSoup(
  soup: PolygonSoup,
  edgeLengths: readonly number[],
  inner: number,
  irregular: number,
): MeshMeasures {
  const faces = faceCountOf(soup);
  const all = Array.from({ length: faces }, (_, f) => ({ sides: soup.faceStarts[f + 1] - soup.faceStarts[f], ...measureFace(soupPoints(soup, f)) })); // prettier-ignore
  const quads = all.filter((m) => m.sides === 4);
  const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
  const average = mean(edgeLengths);
  const spread = Math.sqrt(mean(edgeLengths.map((l) => (l - average) ** 2)));
  const finite = all.map((m) => m.stretch).filter(Number.isFinite);
  const most = (values: readonly number[]): number => values.reduce((a, b) => Math.max(a, b), 0);
  const least = (values: readonly number[]): number => values.reduce((a, b) => Math.min(a, b), Infinity);
  const quality = quads.map((m) => m.cornerQuality),
    warps = quads.map((m) => m.warp);
  return {
    quadShare: quads.length / faces,
    irregularShare: inner > 0 ? irregular / inner : null,
    cornerQuality: quads.length > 0 ? { least: least(quality), mean: mean(quality) } : null,
    warp: quads.length > 0 ? { most: most(warps), mean: mean(warps) } : null,
    evenness: average > 0 ? spread / average : 0,
    stretch: { most: most(finite), mean: finite.length > 0 ? mean(finite) : 0 },
  };
}
