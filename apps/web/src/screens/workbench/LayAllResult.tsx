import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import styled from 'styled-components';
import type { JobCard, LaidMeasures } from '@half-loop/contract';
import { decodeMesh } from '@half-loop/core/mesh';
import { Button, Choice, Note, Range } from '../../kit';
import { api, useSession, type KeptAs } from '../../session';
import { count, lengthText } from '../format';
import { useBench, useView } from './Bench';
import { WorstPlace } from './WorstPlace';

/** Shows what came of a job in the view in place of the piece in hand, or left of the wipe, until it is kept or dropped; gives it once it is there. */
export function useShown(
  job: JobCard | undefined,
  as: 'tried' | 'against' = 'tried',
): { laid: LaidMeasures | null; error: unknown } {
  const { view, session } = useBench();
  const laid = job?.result ?? null;
  const hash = laid?.hash ?? '';
  const name = job?.label ?? '';
  const isHalf = session.plane !== null;
  // stored bytes never change
  const { data, error } = useQuery({ queryKey: ['blob', hash], queryFn: () => api.blob(hash), enabled: hash !== '', staleTime: Infinity }); // prettier-ignore
  const bytes = hash === '' ? undefined : data;
  useEffect(() => {
    view.set({ [as]: bytes ? { mesh: decodeMesh(bytes), isHalf, name } : null });
    return () => view.set({ [as]: null });
  }, [view, bytes, isHalf, name, as]);
  return { laid: bytes ? laid : null, error };
}

const Pictures = styled.div`
  display: grid;
  gap: 6px;
  img {
    width: 100%;
    height: auto;
    border-radius: 6px;
    display: block;
  }
`;

interface OutcomeProps {
  /** the one that is looked at, among all that ended */
  way: JobCard;
  ended: readonly JobCard[];
  /** once it is there */
  laid: LaidMeasures | null;
  /** how often what was laid stands in the whole: twice where the other half mirrors it */
  times: number;
  isAwaited: boolean;
  onChoose: (id: string) => void;
}
/** What came of Lay all: what it measures beside what was there, or why it was refused. */
export function Outcome({ way, ended, laid, times, isAwaited, onChoose }: OutcomeProps): ReactNode {
  return (
    <BroughtIntoSight isAwaited={isAwaited && Boolean(laid ?? way.refusal)}>
      {ended.length > 1 && <Tries ended={ended} chosen={way.id} times={times} onChoose={onChoose} />}
      {way.refusal && <Refusal job={way} />}
      {laid && <LaidNote laid={laid} times={times} />}
      {laid && <Wiped ended={ended} chosen={way.id} />}
    </BroughtIntoSight>
  );
}

/** What came of a run; one that was begun here is brought into sight: its button stands at the card's other end. */
function BroughtIntoSight({ isAwaited, children }: { isAwaited: boolean; children: ReactNode }): ReactNode {
  const own = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (isAwaited) own.current?.scrollIntoView({ block: 'nearest' });
  }, [isAwaited]);
  return <div ref={own}>{children}</div>;
}

/** What there is to see of jobs under way; it grows with them. */
export function Looks({ jobs }: { jobs: readonly JobCard[] }): ReactNode {
  const shown = jobs.filter(({ state, looks }) => state === 'running' && looks > 0);
  return (
    <Pictures>
      {shown.map(({ id, label, stage, looks }) => (
        <img
          key={id}
          src={`/api/jobs/${id}/picture?look=${looks}`}
          alt={`${label}: ${stage}`}
          width={480}
          height={320}
        />
      ))}
    </Pictures>
  );
}

/** Why a way was refused, and where. */
function Refusal({ job }: { job: JobCard }): ReactNode {
  return (
    <>
      <p role="alert">{job.refusal}</p>
      {job.looks > 0 && (
        <Pictures>
          <img
            src={`/api/jobs/${job.id}/picture?look=${job.looks}`}
            alt="Where it was refused"
            width={480}
            height={320}
          />
        </Pictures>
      )}
    </>
  );
}

interface TriesProps {
  ended: readonly JobCard[];
  chosen: string;
  times: number;
  onChoose: (id: string) => void;
}
/** The results side by side, to look at one after another with the same view. */
function Tries({ ended, chosen, times, onChoose }: TriesProps): ReactNode {
  const { unit } = useSession('settings').settings;
  const words = ({ label, result }: JobCard): string => {
    if (!result) return `${label}: refused`;
    const { faces, irregular, quality, distance } = result;
    const away = distance ? `, at most ${lengthText(distance.worst, unit)} off` : '';
    return `${label}: ${count(times * faces)} quads, ${count(times * irregular)} poles, least corner ${quality.least.toFixed(2)}${away}`;
  };
  return (
    <Choice
      label="Show"
      value={chosen}
      options={ended.map((job) => [job.id, words(job)] as [string, string])}
      onChange={onChoose}
    />
  );
}

/** What was there before, among the ways that something was laid. */
const BEFORE = 'before';
/** Wiped this far when another way is first compared. */
const HALF = 0.5;

/** How much of the view, from the left, shows what was there before, or another way. */
function Wiped({ ended, chosen }: { ended: readonly JobCard[]; chosen: string }): ReactNode {
  const { view } = useBench();
  const { wipe } = useView();
  const [picked, setPicked] = useState(BEFORE);
  const others = ended.filter(({ id, result }) => id !== chosen && result);
  const other = others.find(({ id }) => id === picked);
  useShown(other, 'against');
  const pick = (id: string): void => {
    setPicked(id);
    if (wipe === 0 || wipe === 1) view.set({ wipe: HALF });
  };
  const [left, right] = other ? [other.label, 'the one chosen'] : [BEFORE, 'after'];
  return (
    <>
      {others.length > 0 && (
        <Choice
          label="Left of the wipe"
          value={other?.id ?? BEFORE}
          options={[[BEFORE, BEFORE], ...others.map(({ id, label }) => [id, label] as [string, string])]}
          onChange={pick}
        />
      )}
      <Range
        label={`Wipe to ${other ? 'the other' : BEFORE}`}
        value={wipe}
        min={0}
        max={1}
        step={0.01}
        show={(v) => (v === 0 ? `${right} only` : v === 1 ? `${left} only` : `${Math.round(100 * v)} %`)}
        onChange={(value) => view.set({ wipe: value })}
      />
    </>
  );
}

interface KeepProps {
  isEmpty: boolean;
  onKeep: (as: KeptAs) => void;
  onDrop: () => void;
}
/** What is done with a result: in sight however long what is told of it. */
export function Keep({ isEmpty, onKeep, onDrop }: KeepProps): ReactNode {
  return (
    <>
      {isEmpty ? (
        <Button onPress={() => onKeep('in place')}>Keep it</Button>
      ) : (
        <>
          <Button onPress={() => onKeep('piece')}>Keep as a new piece</Button>
          <Button onPress={() => onKeep('in place')}>Take in place of this piece</Button>
        </>
      )}
      <Button onPress={onDrop}>Drop</Button>
    </>
  );
}

const ROUTES = { grid: '', shell: 'over the outer shell', paired: 'by pairing triangles, with many poles' };

/** What a result measures, and what had to be done for it. */
function LaidNote({ laid, times }: { laid: LaidMeasures; times: number }): ReactNode {
  const { unit, budget } = useSession('settings').settings;
  const { quality, distance, mended, routes } = laid;
  const [faces, irregular, interior] = [laid.faces, laid.irregular, laid.interior].map((n) => times * n);
  const ways = new Set(routes.map((route) => ROUTES[route]).filter((words) => words !== ''));
  return (
    <div role="status">
      <Note>
        <span className="num">{count(faces)}</span> quads
        {faces > budget && `, ${count(faces - budget)} over the budget`};{' '}
        <span className="num">{count(irregular)}</span> poles (
        <span className="num">{((100 * irregular) / Math.max(1, interior)).toFixed(1)}</span> %); corners: least{' '}
        <span className="num">{quality.least.toFixed(2)}</span>, mean{' '}
        <span className="num">{quality.mean.toFixed(2)}</span>
      </Note>
      {distance && (
        <Note>
          Distance from the form, both ways: typical <span className="num">{lengthText(distance.typical, unit)}</span>,
          worst <span className="num">{lengthText(distance.worst, unit)}</span>. Points stand a little off it, so that
          faces run through it; <em>Bring back onto the form</em> puts them on it.
        </Note>
      )}
      <WorstPlace at={distance?.worstAt} />
      {[...ways, ...mended].map((line) => (
        <Note key={line}>{line}</Note>
      ))}
    </div>
  );
}
