import { expect, test } from 'vitest';
import { LAY_AS_USUAL, laidAside, layAll, type LaidPart, type LayAllOptions, type Triangles } from '@half-loop/core/retopo'; // prettier-ignore
import { sculptFromSoup } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { Claims } from './Claims';
import { ThreadAside } from './ThreadAside';

const WORKER = new URL('../../../apps/cli/dist/asideWorker.js', import.meta.url);
const OPTIONS: LayAllOptions = { ...LAY_AS_USUAL, faces: 1000 };

/** Two balls beside each other, one half as large again as the other. */
function balls(): Triangles {
  const { positions, indices } = sculptFromSoup(ballSoup(10));
  const all: Triangles = { positions: [], indices: [] };
  const n = positions.length / 3;
  for (const [k, size] of [1, 1.5].entries()) {
    (all.positions as number[]).push(...Array.from(positions, (x, i) => size * x + (i % 3 === 0 ? 8 * k : 0)));
    (all.indices as number[]).push(...Array.from(indices, (v) => v + k * n));
  }
  return all;
}

test('what one takes the other has not; what is done is waited for, and no longer than there are signs of life', () => {
  const here = new Claims(3);
  const there = new Claims(3, here.shared);
  expect([here.take(0), there.take(0), there.take(1), here.take(1)]).toEqual([true, false, true, false]);
  there.done(1);
  expect(here.wait(1, 20)).toBe(true);
  expect(here.wait(0, 20)).toBe(false);
  expect(here.wait(2, 20)).toBe(false);
  // done is not to be had again
  expect(here.take(1)).toBe(false);
});

test('parts that another thread lays are to the last bit those that are laid here', () => {
  const aside = new ThreadAside(WORKER);
  const alone: (LaidPart | undefined)[] = [];
  laidAside(balls(), OPTIONS, [1, 0], (i) => i === 1, (i, laid) => (alone[i] = laid)); // prettier-ignore
  expect(Object.keys(alone)).toEqual(['1']);
  const work = aside.start(balls(), OPTIONS, [1, 0]);
  expect(work.answer(1)).toEqual(alone[1]);
  expect([work.claim(0), work.claim(1)]).toEqual([false, false]);
  work.stop();
});

test('a form of several parts comes out the same on two threads as on one, and where the other thread dies', () => {
  const told: string[] = [];
  const { soup, mended, routes } = layAll(balls(), OPTIONS);
  const both = layAll(balls(), OPTIONS, { stage: (name) => told.push(name) }, new ThreadAside(WORKER));
  expect(both).toEqual({ soup, mended, routes, seconds: {} });
  expect(routes.length).toBe(2);
  expect(told[told.length - 1]).toBe('Done');
  // what is not there can do nothing, and says nothing; it is asked for what it had taken
  const gone = new ThreadAside(new URL('nowhere.js', WORKER), 50);
  const work = gone.start(balls(), OPTIONS, [1, 0]);
  expect(work.answer(0)).toBe(undefined);
  work.stop();
  const takesAll = { start: (...asked: Parameters<ThreadAside['start']>) => ({ ...gone.start(...asked), claim: () => false }) }; // prettier-ignore
  expect(layAll(balls(), OPTIONS, {}, takesAll)).toEqual({ soup, mended, routes, seconds: {} });
});

test('a stage that stops it stops the other thread, too', () => {
  const stop = (): never => {
    throw new Error('stopped');
  };
  expect(() => layAll(balls(), OPTIONS, { stage: (name) => name === 'Grid' && stop() }, new ThreadAside(WORKER))).toThrow('stopped'); // prettier-ignore
});
