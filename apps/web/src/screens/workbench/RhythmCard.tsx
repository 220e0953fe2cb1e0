import { useState, type ReactNode } from 'react';
import { countRhythm, pickedRuns, rhythm, runQuery, type RhythmParams } from '@half-loop/core/select';
import { Button, Choice, Note, NumberBoxField } from '../../kit';
import { useSession } from '../../session';
import { Card } from './Card';

const plural = (n: number, one: string): string => `${n} ${n === 1 ? one : `${one}s`}`;

/** Rhythm: take n, skip m along a loop, a ring or a strip; how it comes out is told before it is accepted. */
export function RhythmCard(): ReactNode {
  const session = useSession('selection', 'mesh');
  const [isOpen, setOpen] = useState(false);
  const [asked, setAsked] = useState<RhythmParams>({ take: 2, skip: 1, offset: 0, along: 'loop' });
  const set = (change: Partial<RhythmParams>): void => setAsked({ ...asked, ...change });
  const { selection, mesh } = session;
  const outcome = isOpen ? countRhythm(mesh, selection, asked) : null;
  const { runs, gaps } = pickedRuns(mesh, selection.edges);
  return (
    <>
      {selection.edges.length > 0 && (
        <Note role="status">
          {plural(selection.edges.length, 'edge')} picked in {plural(runs.length, 'run')}
          {runs.every((r) => r.closed) ? ', closed' : `, open with ${plural(gaps.length, 'end')}`}
        </Note>
      )}
      <Card
        glyph="rhythm"
        title="Rhythm"
        isOpen={isOpen}
        onOpen={() => setOpen(true)}
        hint="Picks in a pattern, from the picked edge on."
      >
        <Choice
          label="Along"
          value={asked.along}
          options={[
            ['loop', 'its loop'],
            ['ring', 'its ring'],
            ['strip', 'its strip'],
          ]}
          onChange={(along) => set({ along })}
        />
        <NumberBoxField
          label="Take"
          value={asked.take}
          min={1}
          max={999}
          digits={0}
          onChange={(take) => set({ take })}
        />
        <NumberBoxField
          label="Skip"
          value={asked.skip}
          min={1}
          max={999}
          digits={0}
          onChange={(skip) => set({ skip })}
        />
        <NumberBoxField
          label="Begin after"
          value={asked.offset}
          min={0}
          max={998}
          digits={0}
          onChange={(offset) => set({ offset })}
        />
        <Note role="status">
          {outcome
            ? `${outcome.picked} of ${outcome.length}; ${outcome.remainder === 0 ? 'it comes out even' : `${outcome.remainder} left over at the end`}`
            : 'Pick an edge to begin from.'}
        </Note>
        <Button isDisabled={!outcome} onPress={() => session.select(runQuery(mesh, rhythm, selection, asked))}>
          Pick in this rhythm
        </Button>
      </Card>
    </>
  );
}
