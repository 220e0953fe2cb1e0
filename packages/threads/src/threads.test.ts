import { expect, test } from 'vitest';
import { LAY_AS_USUAL, laidAside, layAll, type LaidPart, type LayAllOptions } from '@half-loop/core/retopo'; // prettier-ignore
import { sculptFromSoup } from '@half-loop/core/surface';
import { ballSoup, sideBySide } from '@half-loop/core/testing';
import { Claims } from './Claims';
import { ThreadAside } from './ThreadAside';

const WORKER = new URL('../../../apps/cli/dist/asideWorker.js', import.meta.url);
const OPTIONS: LayAllOptions = { ...LAY_AS_USUAL, faces: 1000 };

const BALL = sculptFromSoup(ballSoup(10));
const TWO = sideBySide(BALL, BALL);

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
  laidAside(TWO, OPTIONS, [1, 0], (i) => i === 1, (i, laid) => (alone[i] = laid)); // prettier-ignore
  expect(Object.keys(alone)).toEqual(['1']);
  const work = aside.start(TWO, OPTIONS, [1, 0]);
  expect(work.answer(1)).toEqual(alone[1]);
  expect([work.claim(0), work.claim(1)]).toEqual([false, false]);
  work.stop();
});

test('a form of several parts comes out the same on two threads as on one, and where the other thread dies', () => {
  const told: string[] = [];
  const { soup, mended, routes } = layAll(TWO, OPTIONS);
  const both = layAll(TWO, OPTIONS, { stage: (name) => told.push(name) }, new ThreadAside(WORKER));
  expect(both).toEqual({ soup, mended, routes, seconds: {} });
  expect(routes.length).toBe(2);
  expect(told[told.length - 1]).toBe('Done');
  // what is not there can do nothing, and says nothing; it is asked for what it had taken
  const gone = new ThreadAside(new URL('nowhere.js', WORKER), 50);
  const work = gone.start(TWO, OPTIONS, [1, 0]);
  expect(work.answer(0)).toBe(undefined);
  work.stop();
  const takesAll = { start: (...asked: Parameters<ThreadAside['start']>) => ({ ...gone.start(...asked), claim: () => false }) }; // prettier-ignore
  expect(layAll(TWO, OPTIONS, {}, takesAll)).toEqual({ soup, mended, routes, seconds: {} });
});

test('a stage that stops it stops the other thread, too', () => {
  const stop = (): never => {
    throw new Error('stopped');
  };
  expect(() => layAll(TWO, OPTIONS, { stage: (name) => name === 'Grid' && stop() }, new ThreadAside(WORKER))).toThrow('stopped'); // prettier-ignore
});
