import { closesUp, placeOnCurve, pointAlong, type Curve } from '../lines/lines';
import { cornerOf, halfKey } from './QuadLinks';
import type { QuadSoup } from './QuadSoup';

/** What is being laid: points and their lines grow; edges in `walls`, both ways, are not to be crossed. */
export interface Laying {
  points: number[];
  onLine: number[];
  walls: Set<number>;
  /** gaps of lines that have been laid again, by their points before and after */
  closed: Set<number>;
}

/** Points of lines that are left round what was taken out, in order along each. */
export type AlongLines = readonly { v: number; along: number }[][];

/** The points along each line that quads still use, its corners at both ends among them. Cost: the points times the line's own. */
export function alongLines({ points: p, quads, onLine }: QuadSoup, curves: readonly Curve[]): AlongLines {
  const found: { v: number; along: number }[][] = curves.map(() => []);
  const used = new Set(quads);
  const near = meanEdge({ points: p, quads }) / 4;
  const corners = [...used].filter((v) => onLine[v] === -2);
  const at = (v: number): [number, number, number] => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  for (const v of used) if (onLine[v] >= 0) found[onLine[v]].push({ v, along: placeOnCurve(curves[onLine[v]], ...at(v)).along }); // prettier-ignore
  found.forEach((own, i) => {
    // a rim is the hole's own outline
    if (curves[i].isBorder) own.length = 0;
    if (own.length === 0) return;
    for (const v of corners) {
      const { along, away, length } = placeOnCurve(curves[i], ...at(v));
      if (away < near && Math.min(along, length - along) < near) own.push({ v, along: along < near ? 0 : length });
    }
    own.sort((a, b) => a.along - b.along);
  });
  return found;
}

/** Mean edge length of quads, file units. */
function meanEdge({ points: p, quads }: Pick<QuadSoup, 'points' | 'quads'>): number {
  let sum = 0;
  for (let h = 0; h < quads.length; h++) {
    const [a, b] = [3 * quads[h], 3 * cornerOf(quads, h, 1)];
    sum += Math.hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
  }
  return quads.length > 0 ? sum / quads.length : 0;
}

/**
 * Cuts the outline of a hole along the lines that ran through what was taken out: each is laid again from where it comes in to where it goes out, with as many edges as its
 * length wants and both sides need to stay even. The outline must be even. Cost: the outline times the lines' points.
 */
export function cutAlongLines(
  hole: readonly number[],
  lines: AlongLines,
  curves: readonly Curve[],
  laying: Laying,
): number[][] {
  const place = new Map(hole.map((v, i) => [v, i]));
  for (const [line, own] of lines.entries())
    for (let k = 0; k < own.length; k++) {
      const [from, to] = [own[k], own[(k + 1) % own.length]];
      const isRound = k + 1 === own.length;
      if (isRound && !closesUp(curves[line].points)) continue;
      const [i, j] = [place.get(from.v), place.get(to.v)];
      if (i === undefined || j === undefined || i === j) continue;
      const between = (j - i + hole.length) % hole.length;
      if (between === 1 || between === hole.length - 1 || laying.closed.has(halfKey(from.v, to.v))) continue;
      const chain = chainBetween(from, to, curves[line], line, hole, between, laying);
      if (!chain) continue;
      laying.closed.add(halfKey(from.v, to.v));
      const turned = [...hole.slice(i), ...hole.slice(0, i)];
      const left = [...turned.slice(0, between + 1), ...chain.slice(1, -1).reverse()];
      const right = [...turned.slice(between), ...chain.slice(0, -1)];
      return [left, right].flatMap((part) => cutAlongLines(part, lines, curves, laying));
    }
  return [[...hole]];
}

/** Points along a curve from one of a hole's to another, both among them; null where a side would be too short for a quad. */
function chainBetween(
  from: { v: number; along: number },
  to: { v: number; along: number },
  curve: Curve,
  line: number,
  hole: readonly number[],
  between: number,
  { points, onLine, walls }: Laying,
): number[] | null {
  const total = placeOnCurve(curve, curve.points[0], curve.points[1], curve.points[2]).length;
  const length = to.along > from.along ? to.along - from.along : total - from.along + to.along;
  // as long as the edges of the hole on the whole
  let round = 0;
  hole.forEach((v, i) => {
    const w = hole[(i + 1) % hole.length];
    round += Math.hypot(points[3 * v] - points[3 * w], points[3 * v + 1] - points[3 * w + 1], points[3 * v + 2] - points[3 * w + 2]); // prettier-ignore
  });
  const wanted = (length * hole.length) / round;
  const odd = between % 2;
  const edges = Math.max(2 - odd, 2 * Math.round((wanted - odd) / 2) + odd);
  if (between + edges < 4 || hole.length - between + edges < 4) return null;
  const chain = [from.v];
  for (let k = 1; k < edges; k++) {
    points.push(...pointAlong(curve, (from.along + (k / edges) * length) % total));
    chain.push(onLine.push(line) - 1);
  }
  chain.push(to.v);
  for (let k = 1; k < chain.length; k++) {
    walls.add(halfKey(chain[k - 1], chain[k]));
    walls.add(halfKey(chain[k], chain[k - 1]));
  }
  return chain;
}
