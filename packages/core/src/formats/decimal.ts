/** Powers of ten that a double holds exactly. */
const POWERS = Float64Array.from({ length: 23 }, (_, i) => Number(`1e${i}`));
/** Most decimals a power of ten in the table can shift by. */
export const MOST_SHIFT = 22;
const SPLITTER = 2 ** 27 + 1;

/** What rounding took from a · b = p, exactly (Dekker 1971, Veltkamp's split). */
function productError(a: number, b: number, p: number): number {
  const s = SPLITTER * a,
    ah = s - (s - a),
    al = a - ah;
  const t = SPLITTER * b,
    bh = t - (t - b),
    bl = b - bh;
  return al * bl - (p - ah * bh - al * bh - ah * bl);
}

/**
 * The double nearest to (head · 10^tailDigits + tail) · 10^exponent, or NaN where this cannot tell. Needs head < 10^9,
 * tail < 10^tailDigits ≤ 10^9 and |exponent| ≤ 22. Up to 15 digits one operation rounds once; beyond, the number is taken as a pair of doubles of about 104 bits, and is
 * accepted when both ends of its error round alike (Ziv 1991): all but one number in 2^40.
 */
export function decimal(head: number, tail: number, tailDigits: number, exponent: number): number {
  if (tailDigits <= 6) {
    const exact = head * POWERS[tailDigits] + tail;
    return exponent < 0 ? exact / POWERS[-exponent] : exact * POWERS[exponent];
  }
  const shift = POWERS[tailDigits];
  const product = head * shift;
  const high = product + tail;
  const low = productError(head, shift, product) + (tail - (high - product));
  if (exponent === 0) return rounded(high, low);
  if (exponent > 0) return NaN;
  const divisor = POWERS[-exponent];
  const q = high / divisor;
  const back = q * divisor;
  return rounded(q, (high - back - productError(q, divisor, back) + low) / divisor);
}

function rounded(high: number, low: number): number {
  const error = high * 2 ** -98;
  const least = high + (low - error);
  return least === high + (low + error) ? least : NaN;
}
