/** 4 · rings · (rings − 1) triangles: 998,000 */
export const RINGS = 500;
export const say = (line: string): void => console.log(line);

/** Median and extremes of a timed body, in milliseconds; the first run warms up and is not counted. */
export interface Timing {
  median: number;
  min: number;
  max: number;
}

export async function time(body: () => unknown, runs = 7): Promise<Timing> {
  await body();
  const times: number[] = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    await body();
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  return { median: times[Math.floor(runs / 2)], min: times[0], max: times[runs - 1] };
}

export const ms = ({ median, min, max }: Timing): string =>
  `${median.toFixed(2)} ms (${min.toFixed(2)}–${max.toFixed(2)})`;

/** Two bodies in turn, so that a busy machine slows both; the ratio of their medians. */
export async function pair(
  ours: () => unknown,
  theirs: () => unknown,
  runs = 5,
): Promise<{ ours: Timing; theirs: Timing; ratio: number }> {
  await ours();
  await theirs();
  const a: number[] = [],
    b: number[] = [];
  for (let i = 0; i < runs; i++) {
    for (const [body, list] of [
      [ours, a],
      [theirs, b],
    ] as const) {
      // prettier-ignore
      const start = performance.now();
      await body();
      list.push(performance.now() - start);
    }
  }
  const timing = (list: number[]): Timing => {
    const sorted = [...list].sort((x, y) => x - y);
    return { median: sorted[Math.floor(runs / 2)], min: sorted[0], max: sorted[runs - 1] };
  };
  const [x, y] = [timing(a), timing(b)];
  return { ours: x, theirs: y, ratio: y.median / x.median };
}
