import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { JobCard } from '@half-loop/contract';
import { jobsAfter, listJobs, watchJobs } from '../session/jobs';

const KEY = ['jobs'];

/** Long work on the server, the newest first, as it goes; undefined until it is known. */
export function useJobs(): { jobs: readonly JobCard[] | undefined; error: unknown } {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: KEY, queryFn: listJobs });
  useEffect(
    () =>
      watchJobs((event) => {
        if (event === 'opened') return void client.invalidateQueries({ queryKey: KEY });
        client.setQueryData<JobCard[]>(KEY, (old) => old && jobsAfter(old, event));
      }),
    [client],
  );
  return { jobs: data, error };
}
