import { expect, test } from 'vitest';
import { levelSet } from './levelSet';

test('a ball in a grid becomes a closed surface of its area, facing out', () => {
  const n = 32;
  const c = 2.4 / (n - 1);
  const values = new Float64Array(n * n * n);
  for (let i = 0; i < values.length; i++) {
    const [x, y, z] = [i % n, Math.floor(i / n) % n, Math.floor(i / (n * n))].map((k) => -1.2 + c * k);
    values[i] = Math.hypot(x, y, z) - 1;
  }
  const { positions: p, indices } = levelSet(values, [-1.2, -1.2, -1.2], [n, n, n], c);
  const edges = new Map<string, number>();
  let volume = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const t = indices.slice(i, i + 3);
    t.forEach((u, k) => {
      const key = `${u} ${t[(k + 1) % 3]}`;
      edges.set(key, (edges.get(key) ?? 0) + 1);
    });
    const [a, b, d] = t.map((v) => p.slice(3 * v, 3 * v + 3));
    volume += (a[0] * (b[1] * d[2] - b[2] * d[1]) + a[1] * (b[2] * d[0] - b[0] * d[2]) + a[2] * (b[0] * d[1] - b[1] * d[0])) / 6; // prettier-ignore
  }
  expect([...edges].every(([key, uses]) => uses === 1 && edges.get(key.split(' ').reverse().join(' ')) === 1)).toBe(
    true,
  );
  expect(p.length / 3 - edges.size / 2 + indices.length / 3).toBe(2);
  expect(volume).toBeGreaterThan(0.98 * (4 / 3) * Math.PI);
  expect(volume).toBeLessThan((4 / 3) * Math.PI);
});
