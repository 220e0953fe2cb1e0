import * as z from 'zod/mini';
import { JobEvent, type JobCard } from '@half-loop/contract';
import { api } from './api';

type Listener = (event: JobEvent | 'opened') => unknown;
const listeners = new Set<Listener>();
let source: EventSource | null = null;

/** Tells of every job's changes, by one connection for the whole page, until what it gives is called; 'opened' whenever news may have been missed. */
export function watchJobs(listener: Listener): () => void {
  listeners.add(listener);
  source ??= connect();
  return () => {
    listeners.delete(listener);
    if (listeners.size > 0) return;
    source?.close();
    source = null;
  };
}

function connect(): EventSource {
  const made = new EventSource('/api/jobs/events');
  const tell = (event: JobEvent | 'opened'): void => listeners.forEach((listener) => listener(event));
  made.onopen = () => tell('opened');
  made.onmessage = ({ data }: MessageEvent<string>) => {
    const event = z.safeParse(JobEvent, JSON.parse(data));
    if (event.success) tell(event.data);
  };
  return made;
}

/** The list, with what was told while it was on its way: an answer that was read before a job's end must not stand after it. */
export async function listJobs(): Promise<JobCard[]> {
  const missed: JobEvent[] = [];
  const stop = watchJobs((event) => event !== 'opened' && missed.push(event));
  try {
    return missed.reduce(jobsAfter, (await api.jobs()).jobs);
  } finally {
    stop();
  }
}

export const isOpenJob = ({ state }: JobCard): boolean => state === 'waiting' || state === 'running';

/** The list after an event. What ended stays ended: news of its way may come late. */
export function jobsAfter(jobs: readonly JobCard[], event: JobEvent): JobCard[] {
  if ('gone' in event) return jobs.filter((job) => job.id !== event.gone);
  const { job } = event;
  const known = jobs.find(({ id }) => id === job.id);
  if (!known) return [job, ...jobs];
  if (isOpenJob(job) && (!isOpenJob(known) || (known.state === 'running' && job.done < known.done))) return [...jobs];
  return jobs.map((own) => (own.id === job.id ? job : own));
}
