import { useEffect, useRef, useState } from 'react';
import { messageOf, type BesideRun, type Tell } from '../../session';

/** One run beside the page at a time, as a card shows it; it ends when the card is left, since it would change the piece unseen. */
export function useBesideRun(): {
  under: { stage: string; done: number } | null;
  failed: string | null;
  begin: <T>(start: (tell: Tell) => BesideRun<T>, done?: (made: T) => void) => void;
  stop: () => void;
} {
  const [under, setUnder] = useState<{ stage: string; done: number } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const run = useRef<BesideRun<unknown> | null>(null);
  useEffect(() => () => run.current?.stop(), []);
  return {
    under,
    failed,
    begin(start, done) {
      setFailed(null);
      setUnder({ stage: 'Starting', done: 0 });
      const begun = start((stage, share) => setUnder({ stage, done: share }));
      run.current = begun;
      begun.done
        .then((made) => done?.(made))
        .catch((error: unknown) => setFailed(messageOf(error)))
        .finally(() => setUnder(null));
    },
    stop() {
      run.current?.stop();
      setUnder(null);
    },
  };
}
