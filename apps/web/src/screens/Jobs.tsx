import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import styled from 'styled-components';
import type { JobCard } from '@half-loop/contract';
import { Button, Main, Note, PageFrame } from '../kit';
import { api, messageOf } from '../session/api';
import { isOpenJob } from '../session/jobs';
import { count, timeText } from './format';
import { Progress } from './Progress';
import { useJobs } from './useJobs';

const List = styled.ul`
  list-style: none;
  padding: 0;
  margin: 16px 0;
  display: grid;
  gap: 10px;
`;
const Item = styled.li`
  display: grid;
  grid-template-columns: 180px 1fr auto;
  gap: 14px;
  align-items: start;
  background: ${(p) => p.theme.raised};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 12px;
  padding: 12px;
  .look {
    width: 180px;
    aspect-ratio: 3 / 2;
    border-radius: 6px;
    background: ${(p) => p.theme.paper2};
    display: block;
  }
  h2 {
    font-size: 14px;
    font-weight: 700;
    margin: 0;
  }
  p {
    margin: 4px 0;
  }
  .do {
    display: grid;
    gap: 6px;
  }
  .faulty {
    color: ${(p) => p.theme.kiln};
  }
`;
const STATES = { waiting: 'waits its turn', running: 'under way', done: 'done', refused: 'refused', cancelled: 'cancelled' }; // prettier-ignore

/** Long work on the server: how far it is, what came of it, and what may be done with it. */
export default function Jobs(): ReactNode {
  const { jobs, error } = useJobs();
  const ended = (jobs ?? []).filter((job) => !isOpenJob(job));
  return (
    <PageFrame>
      <Main>
        <h1>Jobs</h1>
        {error !== null && <p role="alert">{messageOf(error)}</p>}
        {!jobs && error === null && <Note>Asking the server …</Note>}
        {jobs?.length === 0 && (
          <Note>
            No long work yet. What is asked for under <strong>Lay all</strong>, at an asset’s stop Lay, runs here; it
            goes on when its tab is closed.
          </Note>
        )}
        {ended.length > 1 && (
          <Button onPress={() => void Promise.all(ended.map((job) => api.dropJob(job.id)))}>
            Drop the {count(ended.length)} that have ended
          </Button>
        )}
        <List aria-label="Jobs">
          {jobs?.map((job) => (
            <JobItem key={job.id} job={job} />
          ))}
        </List>
      </Main>
    </PageFrame>
  );
}

function JobItem({ job }: { job: JobCard }): ReactNode {
  const [refused, setRefused] = useState<string | null>(null);
  const { id, asset, label, state, stage, done, looks, ask, refusal } = job;
  const isOpen = isOpenJob(job);
  const doing = (work: Promise<unknown>): void => void work.catch((error: unknown) => setRefused(messageOf(error)));
  return (
    <Item aria-label={`${asset.name}: ${label}`}>
      {looks > 0 ? (
        <img
          className="look"
          src={`/api/jobs/${id}/picture?look=${looks}`}
          alt={`${asset.name}, as far as it is laid`}
        />
      ) : (
        <span className="look" />
      )}
      <div>
        <h2>{asset.name}: Lay all</h2>
        <Note>
          {label}; {count(ask.faces)} quads over {ask.piece === null ? 'the sculpt' : 'a piece'}
          {ask.plane ? `, mirrored across ${ask.plane.axis}` : ''}; asked for {timeText(job.askedAt)}
        </Note>
        {state === 'running' ? <Progress label={stage} value={done} /> : <p>{stateText(job)}</p>}
        {refusal !== null && <p className="faulty">{refusal}</p>}
        {refused !== null && <p role="alert">{refused}</p>}
      </div>
      <div className="do">
        <Link to={`/a/${asset.id}/lay#lay-all`}>{state === 'done' ? 'Look at it' : 'Open the asset'}</Link>
        {isOpen ? (
          <Button aria-label={`Cancel ${label} of ${asset.name}`} onPress={() => doing(api.cancelJob(id))}>
            Cancel
          </Button>
        ) : (
          <Button aria-label={`Drop ${label} of ${asset.name}`} onPress={() => doing(api.dropJob(id))}>
            Drop
          </Button>
        )}
      </div>
    </Item>
  );
}

function stateText({ state, ask, result, askedAt, endedAt }: JobCard): ReactNode {
  if (!result) return STATES[state];
  // the other half mirrors what was laid
  const times = ask.plane ? 2 : 1;
  const took = endedAt === null ? 0 : (Date.parse(endedAt) - Date.parse(askedAt)) / 1000;
  return (
    <>
      <span className="num">{count(times * result.faces)}</span> quads,{' '}
      <span className="num">{count(times * result.irregular)}</span> poles, least corner{' '}
      <span className="num">{result.quality.least.toFixed(2)}</span>; done in{' '}
      <span className="num">{took.toFixed(took < 10 ? 1 : 0)}</span> s
    </>
  );
}
