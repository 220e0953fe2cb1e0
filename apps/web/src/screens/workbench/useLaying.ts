import { useState } from 'react';
import type { JobCard, LaidMeasures } from '@half-loop/contract';
import { api, askToLay, dropJobs, isOpenJob, keepLaid, messageOf, useSession, type KeptAs, type LayTry } from '../../session'; // prettier-ignore
import { useJobs } from '../useJobs';

export interface Laying {
  /** the ways of the latest run, in the order in which they were asked for */
  ways: readonly JobCard[];
  /** while it runs: what is being worked on, and how far all is */
  under: { stage: string; done: number } | null;
  /** why the server would not take it, or what went wrong on keeping */
  refused: string | null;
  start: (over: 'sculpt' | 'piece', tries: readonly LayTry[]) => void;
  cancel: () => void;
  keep: (laid: LaidMeasures, as: KeptAs) => void;
  drop: () => void;
}

/** The asset's latest run of Lay all on the server: it goes on when this tab does not, and is found again. */
export function useLaying(): Laying {
  const session = useSession();
  const { jobs } = useJobs();
  const [refused, setRefused] = useState<string | null>(null);
  const [isAsking, setAsking] = useState(false);
  const own = (jobs ?? []).filter((job) => job.asset.id === session.asset.id && job.state !== 'cancelled');
  const ways = own.filter((job) => job.run === own[0]?.run).sort((a, b) => (a.askedAt < b.askedAt ? -1 : 1));
  const open = ways.filter(isOpenJob);
  const first = open.find((job) => job.state === 'running');
  const doing = (work: Promise<unknown>): void => {
    setRefused(null);
    work.catch((error: unknown) => setRefused(messageOf(error))).finally(() => setAsking(false));
  };
  return {
    ways,
    under:
      open.length > 0
        ? { stage: first?.stage ?? 'Waiting', done: ways.reduce((sum, job) => sum + (isOpenJob(job) ? job.done : 1), 0) / ways.length } // prettier-ignore
        : isAsking
          ? { stage: 'Asking', done: 0 }
          : null,
    refused,
    start(over, tries) {
      setAsking(true);
      doing(askToLay(session, over, tries, own));
    },
    cancel: () => doing(Promise.all(open.map((job) => api.cancelJob(job.id)))),
    keep: (laid, as) => doing(keepLaid(session, laid, as).then(() => dropJobs(ways))),
    drop: () => doing(dropJobs(ways)),
  };
}
