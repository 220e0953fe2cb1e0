import { expect, test } from 'vitest';
import { LAY_AS_USUAL, laidAside, layAll, type Aside, type LaidPart, type LayAllOptions } from '@half-loop/core/retopo'; // prettier-ignore
import { sculptFromSoup } from '@half-loop/core/surface';
import { ballSoup, gearOutline, prismSoup, sideBySide } from '@half-loop/core/testing';
import { Claims } from './Claims';
import { ThreadAside } from './ThreadAside';

const WORKER = new URL('../../../apps/cli/dist/asideWorker.js', import.meta.url);
const OPTIONS: LayAllOptions = { ...LAY_AS_USUAL, faces: 1000 };

const BALL = sculptFromSoup(ballSoup(10));
const TWO = sideBySide(BALL, BALL);
const BOTH = [{ part: 1 }, { part: 0 }];

test('what one takes the other has not; what is done is waited for, and no longer than there are signs of life', () => {
  const here = new Claims(3);
  const there = new Claims(3, here.shared);
  expect([here.take(0), there.take(0), there.take(1), here.take(1)]).toEqual([true, false, true, false]);
  there.done(1);
  expect([here.isDone(0), here.isDone(1)]).toEqual([false, true]);
  expect(here.wait(1, 20)).toBe(true);
  expect(here.wait(0, 20)).toBe(false);
  expect(here.wait(2, 20)).toBe(false);
  // done is not to be had again
  expect(here.take(1)).toBe(false);
});

test('parts that another thread lays are to the last bit those that are laid here', () => {
  const aside = new ThreadAside(WORKER);
  const alone: (LaidPart | undefined)[] = [];
  laidAside(TWO, OPTIONS, BOTH, (i) => i === 1, (i, laid) => (alone[i] = laid)); // prettier-ignore
  expect(Object.keys(alone)).toEqual(['1']);
  const work = aside.start(TWO, OPTIONS, BOTH);
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
  const work = gone.start(TWO, OPTIONS, BOTH);
  expect(work.answer(0)).toBe(undefined);
  work.stop();
  const takesAll = { start: (...asked: Parameters<ThreadAside['start']>) => ({ ...gone.start(...asked), claim: () => false }) }; // prettier-ignore
  expect(layAll(TWO, OPTIONS, {}, takesAll)).toEqual({ soup, mended, routes, seconds: {} });
});

test('ways of one part that two threads try between them come to the same as on one', () => {
  const gear = sculptFromSoup(prismSoup(gearOutline(12), 1.2));
  const options = { ...LAY_AS_USUAL, faces: 100 };
  const ways = new Set<string>();
  const { soup, mended, routes } = layAll(gear, options, { stage: (name) => ways.add(name.split(', ')[1]) });
  expect([...ways]).toContain('third way');
  const aside = new ThreadAside(WORKER);
  const asked: (number | undefined)[] = [];
  const watched: Aside = {
    start(input, given, errands) {
      asked.push(...errands.map(({ way }) => way));
      return aside.start(input, given, errands);
    },
  };
  expect(layAll(gear, options, {}, watched)).toEqual({ soup, mended, routes, seconds: {} });
  // the second is tried here meanwhile, and the fourth goes by the best of those before
  expect(asked).toEqual([2, 4, 5, 6]);
  // where it can do nothing all is done here
  const idle: Aside = {
    start: () => ({ claim: () => false, isDone: () => true, answer: () => undefined, stop: () => undefined }),
  };
  expect(layAll(gear, options, {}, idle)).toEqual({ soup, mended, routes, seconds: {} });
});

test('a stage that stops it stops the other thread, too', () => {
  const stop = (): never => {
    throw new Error('stopped');
  };
  expect(() => layAll(TWO, OPTIONS, { stage: (name) => name === 'Grid' && stop() }, new ThreadAside(WORKER))).toThrow('stopped'); // prettier-ignore
});
