import { useEffect, useRef, useState } from 'react';
import { keepLaid, layTries, messageOf, useSession, type KeptAs, type LayResult, type LayTry } from '../../session';
import type { Laid } from '../../workers/layAllWorker';

export interface Laying {
  /** while it runs: what is being worked on, and how far all is */
  under: { stage: string; done: number } | null;
  results: readonly LayResult[];
  refused: string | null;
  start: (over: 'sculpt' | 'piece', tries: readonly LayTry[]) => void;
  cancel: () => void;
  keep: (laid: Laid, as: KeptAs) => void;
  drop: () => void;
}

/** One run at a time, ended with the card. */
export function useLaying(): Laying {
  const session = useSession();
  const [under, setUnder] = useState<Laying['under']>(null);
  const [results, setResults] = useState<readonly LayResult[]>([]);
  const [refused, setRefused] = useState<string | null>(null);
  const run = useRef<{ cancel: () => void } | null>(null);
  useEffect(() => () => run.current?.cancel(), []);
  const drop = (): void => {
    setResults([]);
    setRefused(null);
  };
  return {
    under,
    results,
    refused,
    drop,
    start(over, tries) {
      drop();
      setUnder({ stage: 'Starting', done: 0 });
      const made: LayResult[] = [];
      const tell = (stage: string, done: number): void => setUnder({ stage, done });
      const all = layTries(session, over, tries, tell, (result, i) => {
        made[i] = result;
        setResults(made.filter((r) => r !== undefined));
      });
      run.current = all;
      void all.done.then(() => setUnder(null));
    },
    cancel() {
      run.current?.cancel();
      setUnder(null);
    },
    keep: (laid, as) => void keepLaid(session, laid, as).then(drop, (error: unknown) => setRefused(messageOf(error))),
  };
}
