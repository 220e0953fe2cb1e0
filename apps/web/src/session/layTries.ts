import type { LayAllOptions } from '@half-loop/core/retopo';
import type { Laid } from '../workers/layAllWorker';
import { layOver, type LayRun } from './layRun';
import type { Session } from './Session';

/** One way of laying all: what is different about it, and how it goes. */
export interface LayTry {
  label: string;
  options: LayAllOptions;
}
/** `faces`: as many as were asked for. */
export type LayResult = { label: string; faces: number } & ({ laid: Laid } | { refused: unknown });

/** Runs side by side; more would share the same processors. */
const AT_ONCE = 2;

/** As asked for, and up to three ways that differ in one thing: sizes, the form, the count. */
export function triesOf(options: LayAllOptions, count: number): LayTry[] {
  const isEven = options.evenness < 0.35;
  const follows = options.followForm > 0.35;
  const all: LayTry[] = [
    { label: 'As asked', options },
    {
      label: isEven ? 'Sizes by thickness' : 'Sizes all alike',
      options: { ...options, evenness: isEven ? 0.9 : 0 },
    },
    {
      label: follows ? 'Smoothest flow' : 'Along the form',
      options: { ...options, followForm: follows ? 0 : 1 },
    },
    { label: 'A third more', options: { ...options, faces: Math.round((4 / 3) * options.faces) } },
  ];
  return all.slice(0, count);
}

/** Lays every try, two at a time. `tell` hears of the first that is under way, and how far all are; `one` of each that is done, or refused. */
export function layTries(
  session: Session,
  what: 'sculpt' | 'piece',
  tries: readonly LayTry[],
  tell: (stage: string, done: number) => void,
  one: (result: LayResult, index: number) => void,
): { done: Promise<void>; cancel: () => void } {
  const runs = new Set<LayRun>();
  const shares = tries.map(() => 0);
  let [next, isEnded] = [0, false];
  const work = async (): Promise<void> => {
    while (next < tries.length && !isEnded) {
      const i = next++;
      const { label, options } = tries[i];
      const run = layOver(session, what, options, (stage, done) => {
        // a word that was on its way when all was cancelled
        if (isEnded) return;
        shares[i] = done;
        if (shares.findIndex((share) => share < 1) === i) tell(stage, shares.reduce((a, b) => a + b, 0) / tries.length);
      });
      runs.add(run);
      const faces = options.faces;
      const result = await run.done.then((laid): LayResult => ({ label, faces, laid }), (error: unknown): LayResult => ({ label, faces, refused: error })); // prettier-ignore
      runs.delete(run);
      shares[i] = 1;
      one(result, i);
    }
  };
  return {
    done: Promise.all(Array.from({ length: Math.min(AT_ONCE, tries.length) }, work)).then(() => undefined),
    cancel() {
      isEnded = true;
      for (const run of runs) run.cancel();
    },
  };
}
