import { expect, test } from 'vitest';
import { quadsOnBall } from '../testing';
import type { Piece } from './gridQuads';
import { verified } from './quads/verify';
import { isBetter, isGood } from './tries';

/** Quads all over a ball, n² on each of six sides, with their corners so square on the mean. */
function onBall(n: number, mean?: number): Piece {
  const soup = quadsOnBall(n);
  const verdict = verified(soup, { euler: 2, borders: 0, parts: 1 }, []);
  const quality = { ...verdict.quality, mean: mean ?? verdict.quality.mean };
  const nothing = { bare: 0, short: 0, away: 0, astray: 0, crossing: 0 };
  return {
    soup,
    verdict: { ...verdict, quality },
    route: 'grid',
    lost: { ofForm: 0, drawn: 0 },
    tips: new Set(),
    ...nothing,
  };
}

test('few quads are good enough with corners beside poles that more of them are not', () => {
  const few = onBall(3);
  const { mean } = few.verdict.quality;
  expect(mean).toBeGreaterThan(0.93);
  expect(mean).toBeLessThan(0.97);
  expect(isGood(few, 54, 1)).toBe(true);
  expect(isGood(onBall(8, mean), 384, 1)).toBe(false);
  expect(isGood(onBall(8, 0.98), 384, 1)).toBe(true);
  // whatever corners are like, not where it lacks what it should have
  expect(isGood({ ...few, crossing: 1 }, 54, 1)).toBe(false);
  expect(isGood({ ...few, bare: 0.1 }, 54, 1)).toBe(false);
  expect(isGood(few, 40, 1)).toBe(false);
  // a few over a budget are too many, as many under it are not
  expect(isGood(few, 52, 1)).toBe(false);
  expect(isGood(few, 56, 1)).toBe(true);
  expect(isGood(onBall(3, 0.92), 54, 1)).toBe(false);
});

test('a limb that is closed off, for quads astray, is worth more poles, but not any number of them', () => {
  const ball = onBall(8);
  const { verdict } = ball;
  const withPoles = (irregular: number): Piece => ({ ...ball, verdict: { ...verdict, irregular } });
  const closedOff = { ...ball, astray: 2 };
  const share = 0.06 * verdict.interior;
  expect(isBetter(withPoles(Math.floor(verdict.irregular + 0.9 * share)), closedOff, 384)).toBe(true);
  expect(isBetter(withPoles(Math.ceil(verdict.irregular + 1.1 * share)), closedOff, 384)).toBe(false);
});
