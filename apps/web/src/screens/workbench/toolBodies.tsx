import type { ReactNode } from 'react';
import { Button, Choice, Note, NumberBoxField, Range, Toggle } from '../../kit';
import { useSession } from '../../session';
import type { PlaceSettings } from '../../tools';
import { lengthText } from '../format';
import { useBench, useView } from './Bench';
import { LatestNote } from './OperatorCard';
import { OperatorFields } from './OperatorFields';

/** The settings of Place: what a drag does, along what, and what it catches on. */
export function PlaceBody(): ReactNode {
  const bench = useBench();
  const session = useSession('settings');
  const s = bench.settings.of('place') as unknown as PlaceSettings;
  const set = (key: keyof PlaceSettings) => (value: unknown) => bench.settings.change('place', key, value);
  const { unit } = session.settings;
  return (
    <>
      <Choice
        label="Takes"
        value={s.takes}
        options={[
          ['picked', 'what is picked'],
          ['part', 'what hangs together'],
          ['piece', 'the whole piece'],
          ['shown', 'all pieces shown'],
        ]}
        onChange={set('takes')}
      />
      <Choice
        label="A drag"
        value={s.drag}
        options={[
          ['move', 'moves'],
          ['turn', 'turns'],
          ['scale', 'scales'],
        ]}
        onChange={set('drag')}
      />
      <Choice
        label="Along"
        value={s.lock}
        options={[
          ['none', 'the view'],
          ['x', 'x'],
          ['y', 'y'],
          ['z', 'z'],
          ['not-x', 'y and z'],
          ['not-y', 'x and z'],
          ['not-z', 'x and y'],
        ]}
        onChange={set('lock')}
      />
      <Choice
        label="Axes"
        value={s.axes}
        options={[
          ['world', 'of the file'],
          ['view', 'of the view'],
          ['own', 'its own'],
        ]}
        onChange={set('axes')}
      />
      <OperatorFields name="transform" />
      <Toggle label="Catch (or hold Ctrl)" value={s.catching} onChange={set('catching')} />
      {s.drag === 'turn' ? (
        <NumberBoxField
          label="Angle steps"
          unit="°"
          value={s.angleStep}
          min={0.1}
          max={180}
          onChange={set('angleStep')}
        />
      ) : (
        <NumberBoxField
          label="Grid steps"
          unit={unit}
          value={s.gridStep}
          min={0}
          digits={4}
          onChange={set('gridStep')}
        />
      )}
    </>
  );
}

export function BrushBody(): ReactNode {
  const bench = useBench();
  const session = useSession('settings');
  const radius = bench.settings.of('brush').radius as number;
  return (
    <>
      <Range
        label="Size"
        value={radius}
        min={radius / 20}
        max={Math.max(radius * 2, 1e-6)}
        step={radius / 100}
        show={(v) => lengthText(v, session.settings.unit)}
        onChange={(v) => bench.settings.change('brush', 'radius', v)}
      />
      <OperatorFields name="brush" />
    </>
  );
}

export function LassoBody(): ReactNode {
  const { view } = useBench();
  const { lasso, kind } = useView();
  return (
    <>
      <Choice
        label="Draw"
        value={lasso.shape}
        options={[
          ['box', 'a box'],
          ['lasso', 'a line round'],
        ]}
        onChange={(shape) => view.set({ lasso: { ...lasso, shape } })}
      />
      <Choice
        label="Take"
        value={kind}
        options={[
          ['any', 'as before'],
          ['vertices', 'vertices'],
          ['edges', 'edges'],
          ['faces', 'faces'],
        ]}
        onChange={(k) => view.set({ kind: k })}
      />
      <Toggle
        label="Only what lies wholly inside"
        value={lasso.wholly}
        onChange={(wholly) => view.set({ lasso: { ...lasso, wholly } })}
      />
      <Toggle
        label="Through the model"
        value={lasso.through}
        onChange={(through) => view.set({ lasso: { ...lasso, through } })}
      />
      <Note>Shift and a drag on the background do the same with any tool in hand.</Note>
    </>
  );
}

/** The ways that Route on offers, each with its cost; the one in view is marked. */
export function RouteBody(): ReactNode {
  return <OfferedWays name="route-on" label="Ways on" />;
}

/** The ways that a tool offers, one of them in view; or what its latest step did. */
function OfferedWays({ name, label }: { name: string; label: string }): ReactNode {
  const bench = useBench();
  const { offer } = bench;
  if (!offer) return <LatestNote name={name} />;
  const options = offer.choices.map((words, i): [string, string] => [String(i), `${i + 1}: ${words}`]);
  const choose = (value: string): void => {
    offer.choose(Number(value));
    bench.changed();
  };
  return (
    <>
      <Choice label={label} value={String(offer.chosen)} options={options} onChange={choose} />
      <Button onPress={() => bench.finish()}>Keep this way</Button>
    </>
  );
}

/** How an opening is filled: corners, poles, what happens to an odd border; and the ways while they are offered. */
export function FillBody(): ReactNode {
  return (
    <>
      <OperatorFields name="fill" without={['way']} />
      <OfferedWays name="fill" label="Ways to fill it" />
    </>
  );
}

/** What a stroke lays, and the settings of the latest row or ring, which change it until the next stroke. */
export function RowBody(): ReactNode {
  const bench = useBench();
  const session = useSession('history');
  const { shape } = bench.settings.of('row') as { shape: string };
  const made = session.latest?.op.name;
  const shown = made === 'lay-ring' || made === 'lay-row' ? made : shape === 'ring' ? 'lay-ring' : 'lay-row';
  return (
    <>
      <Choice
        label="A stroke lays"
        value={shape}
        options={[
          ['either', 'as it is drawn'],
          ['row', 'a row'],
          ['ring', 'a ring'],
        ]}
        onChange={(to) => bench.settings.change('row', 'shape', to)}
      />
      <OperatorFields name={shown} />
      <LatestNote name={shown} />
    </>
  );
}

/** The guides that are drawn: each can be dropped. */
export function GuideBody(): ReactNode {
  const bench = useBench();
  const { stickTo } = useView();
  const session = useSession('settings');
  const { guides } = session.settings;
  const drop = (name: string): void =>
    session.changeSettings(`${name} dropped`, { guides: guides.filter((g) => g.name !== name) });
  return (
    <>
      {stickTo === 'plane' && (
        <Choice
          label="Lies on"
          value={bench.settings.of('guide').liesOn as 'plane' | 'piece'}
          options={[
            ['plane', 'the work plane'],
            ['piece', 'this piece'],
          ]}
          onChange={(liesOn) => bench.settings.change('guide', 'liesOn', liesOn)}
        />
      )}
      {guides.length === 0 && <Note>No guide is drawn yet.</Note>}
      {guides.map((g) => (
        <div key={g.name} style={{ display: 'flex', gap: 4, alignItems: 'center', marginTop: 4 }}>
          <span style={{ flex: 1 }}>
            {g.name}
            {g.closed ? ', closed' : ''}
          </span>
          <Button aria-label={`Drop ${g.name}`} onPress={() => drop(g.name)}>
            Drop
          </Button>
        </div>
      ))}
    </>
  );
}
