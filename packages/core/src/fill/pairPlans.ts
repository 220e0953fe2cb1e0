import { lengthsOf, spokesFor, type Patch, type Plan, type Side } from './Patch';

/** Where two poles of five stand in a patch of six sides: so many edges apart both ways, and the spokes to the sides. */
interface Pair {
  p: number;
  q: number;
  spokes: number[];
  /** how uneven it is */
  off: number;
}

/**
 * Ways to fill six sides round two poles of five, wherever they stand. Taken together into one point they leave a star of six whose sides
 * lack the strips between the poles: q on the first and fourth, p on the third and sixth. A cut into two stars misses poles that lie
 * in one quad. Cost: p times q, thrice.
 */
export function pairPlans(sides: readonly Side[]): Plan[] {
  if (sides.length !== 6) return [];
  const found: Plan[] = [];
  for (let turn = 0; turn < 3; turn++) {
    const turned = [...sides.slice(turn), ...sides.slice(0, turn)];
    const pairs = pairsOf(lengthsOf(turned));
    if (pairs.length > 0) found.push(pairPlan(turned, pairs, pairs.reduce((a, b) => (b.off < a.off ? b : a)))); // prettier-ignore
  }
  return found;
}

function pairsOf([l1, l2, l3, l4, l5, l6]: readonly number[]): Pair[] {
  const pairs: Pair[] = [];
  for (let p = 0; p < Math.min(l3, l6); p++)
    for (let q = 0; q < Math.min(l1, l4); q++) {
      const spokes = p + q > 0 ? spokesFor([l1 - q, l2, l3 - p, l4 - q, l5, l6 - p]) : null;
      if (spokes) pairs.push({ p, q, spokes, off: Math.log(Math.max(p, q, ...spokes) / Math.min(...spokes)) });
    }
  // nearer poles first, so that they slide apart
  return pairs.sort((a, b) => a.p + a.q - b.p - b.q || a.p - b.p);
}

function pairPlan(sides: readonly Side[], pairs: readonly Pair[], pair: Pair): Plan {
  const at = pairs.indexOf(pair);
  const slid = (share: number): Plan =>
    pairPlan(sides, pairs, pairs[at + Math.round(share * (share < 0 ? at : pairs.length - 1 - at))]);
  return {
    irregular: 2,
    words: 'two poles of 5, side by side',
    build: (patch) => buildPair(patch, sides, pair),
    ...(pairs.length > 1 ? { slid } : {}),
  };
}

/**
 * The poles are A, and B that lies p to its right and q above it, with X and Y at the other corners of the grid between them. Sides run round
 * from the upper left: left, lower left, below, right, upper right, above.
 */
function buildPair(patch: Patch, sides: readonly Side[], { p, q, spokes: [a, b, c, d, e, f] }: Pair): void {
  const [left, lowLeft, low, right, highRight, high] = sides;
  const A = patch.point(),
    B = patch.point();
  const X = q === 0 ? A : p === 0 ? B : patch.point();
  const Y = q === 0 ? B : p === 0 ? A : patch.point();
  const line = (from: number, to: number, edges: number): number[] => (from === to ? [from] : patch.chain(from, to, edges)); // prettier-ignore
  // where the poles stand in one line, both ways between them are one
  const AX = line(A, X, q),
    AY = line(A, Y, p);
  const XB = q === 0 ? AY : line(X, B, p),
    YB = p === 0 ? AX : line(Y, B, q);
  // spokes to the sides; where the poles lie apart, two run to the same side
  const aLeft = line(A, left[f + q], a), xLeft = X === A ? aLeft : line(X, left[f], a); // prettier-ignore
  const aLowLeft = line(A, lowLeft[a], b);
  const aLow = line(A, low[b], c), yLow = Y === A ? aLow : line(Y, low[b + p], c); // prettier-ignore
  const bRight = line(B, right[c + q], d), yRight = Y === B ? bRight : line(Y, right[c], d); // prettier-ignore
  const bHighRight = line(B, highRight[d], e);
  const bHigh = line(B, high[e], f), xHigh = X === B ? bHigh : line(X, high[e + p], f); // prettier-ignore
  const back = (chain: Side): number[] => [...chain].reverse();
  const corner = (before: Side, after: Side, foot: number, inwards: Side, out: Side): void =>
    patch.grid([before.slice(before.indexOf(out[out.length - 1])), after.slice(0, foot + 1), back(inwards), out]);
  corner(high, left, f, xLeft, xHigh);
  corner(left, lowLeft, a, aLowLeft, aLeft);
  corner(lowLeft, low, b, aLow, aLowLeft);
  corner(low, right, c, yRight, yLow);
  corner(right, highRight, d, bHighRight, bRight);
  corner(highRight, high, e, bHigh, bHighRight);
  if (q > 0) {
    patch.grid([left.slice(f, f + q + 1), back(aLeft), AX, xLeft]);
    patch.grid([right.slice(c, c + q + 1), back(bRight), back(YB), yRight]);
  }
  if (p > 0) {
    patch.grid([low.slice(b, b + p + 1), back(yLow), back(AY), aLow]);
    patch.grid([high.slice(e, e + p + 1), back(xHigh), XB, bHigh]);
  }
  if (p > 0 && q > 0) patch.grid([AY, YB, back(XB), back(AX)]);
}
