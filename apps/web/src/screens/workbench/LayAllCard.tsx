import { useEffect, useRef, useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { Button, Choice, MainButton, Note, NumberBoxField, Range, Toggle } from '../../kit';
import type { LayAllOptions } from '@half-loop/core/retopo';
import { keepLaid, layOver, messageOf, useSession, type KeptAs, type LayRun } from '../../session';
import type { Laid } from '../../workers/layAllWorker';
import { Progress } from '../Progress';
import { count } from '../format';
import { Card } from './Card';

type State =
  | { is: 'ready' }
  | { is: 'running'; stage: string; done: number }
  | { is: 'laid'; laid: Laid }
  | { is: 'refused'; text: string };

interface Laying {
  state: State;
  start: (over: 'sculpt' | 'piece', options: LayAllOptions) => void;
  cancel: () => void;
  keep: (laid: Laid, as: KeptAs) => void;
  drop: () => void;
}

/** One run at a time, ended with the card. */
function useLaying(): Laying {
  const session = useSession();
  const [state, setState] = useState<State>({ is: 'ready' });
  const run = useRef<LayRun | null>(null);
  useEffect(() => () => run.current?.cancel(), []);
  const drop = (): void => setState({ is: 'ready' });
  const refused = (error: unknown): void => setState({ is: 'refused', text: messageOf(error) });
  return {
    state,
    drop,
    start(over, options) {
      setState({ is: 'running', stage: 'Starting', done: 0 });
      run.current = layOver(session, over, options, (stage, done) => setState({ is: 'running', stage, done }));
      run.current.done.then((laid) => setState({ is: 'laid', laid }), refused);
    },
    cancel() {
      run.current?.cancel();
      drop();
    },
    keep: (laid, as) => void keepLaid(session, laid, as).then(drop, refused),
  };
}

/** Automatic retopology: how many and how, progress, and what came of it, to keep or to drop. */
export function LayAllCard(): ReactNode {
  const session = useSession('settings', 'mesh', 'reset', 'pieces');
  const [isOpen, setOpen] = useState(false);
  const [faces, setFaces] = useState<number | null>(null);
  const [over, setOver] = useState<'sculpt' | 'piece'>(session.surface ? 'sculpt' : 'piece');
  const [evenness, setEvenness] = useState(0.7);
  const [follow, setFollow] = useState(1);
  const [keeps, setKeeps] = useState(false);
  const [angle, setAngle] = useState(40);
  const { state, start, cancel, keep, drop } = useLaying();
  const wanted = faces ?? session.settings.budget;
  const begin = (): void =>
    start(over, {
      faces: wanted,
      evenness,
      followForm: follow,
      keepEdges: keeps ? angle : null,
      plane: session.plane,
      dropDust: true,
    });
  const nothing = over === 'piece' && session.mesh.faceCount === 0;
  return (
    <Card
      glyph="lay-all"
      title="Lay all"
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Quads all over, along the form. What is there stays until you keep the result."
    >
      {
        session.surface &&
        <Choice label="Over" value={over} options={[['sculpt', 'the sculpt'], ['piece', 'this piece']]} onChange={setOver} /> // prettier-ignore
      }
      <NumberBoxField label="Faces" unit="quads" value={wanted} min={12} max={60_000} digits={0} onChange={setFaces} />
      <Range
        label="Sizes by thickness"
        value={evenness}
        min={0}
        max={1}
        step={0.05}
        show={(v) => (v === 0 ? 'all alike' : v.toFixed(2))}
        onChange={setEvenness}
      />
      <Range
        label="Follow the form"
        value={follow}
        min={0}
        max={1}
        step={0.05}
        show={(v) => (v === 0 ? 'smoothest' : v.toFixed(2))}
        onChange={setFollow}
      />
      <Toggle label="Keep sharp edges" value={keeps} onChange={setKeeps} />
      {keeps && (
        <NumberBoxField label="Sharper than" unit="°" value={angle} min={10} max={120} digits={0} onChange={setAngle} />
      )}
      {session.plane && <Note>One half is laid; the other mirrors it to the last bit.</Note>}
      {state.is === 'running' ? (
        <>
          <Progress label={state.stage} value={state.done} />
          <Button onPress={cancel}>Cancel</Button>
        </>
      ) : (
        <MainButton isDisabled={nothing} onPress={begin}>
          {state.is === 'laid' ? 'Lay it all again' : 'Lay it all'}
        </MainButton>
      )}
      {nothing && <Note>This piece has no faces to lay over.</Note>}
      {state.is === 'refused' && <p role="alert">{state.text}</p>}
      {state.is === 'laid' && <LaidNote laid={state.laid} wanted={wanted / (session.plane ? 2 : 1)} />}
      {state.is === 'laid' && (
        <Keep isEmpty={session.mesh.faceCount === 0} onKeep={(as) => keep(state.laid, as)} onDrop={drop} />
      )}
    </Card>
  );
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin-top: 6px;
`;

interface KeepProps {
  isEmpty: boolean;
  onKeep: (as: KeptAs) => void;
  onDrop: () => void;
}
function Keep({ isEmpty, onKeep, onDrop }: KeepProps): ReactNode {
  return (
    <Row>
      {isEmpty ? (
        <Button onPress={() => onKeep('in place')}>Keep it</Button>
      ) : (
        <>
          <Button onPress={() => onKeep('piece')}>Keep as a piece, hide this one</Button>
          <Button onPress={() => onKeep('in place')}>Take in place of this piece</Button>
        </>
      )}
      <Button onPress={onDrop}>Drop</Button>
    </Row>
  );
}

const ROUTES = { grid: '', shell: 'over the outer shell', paired: 'by pairing triangles, with many poles' };

/** What a result measures, and what had to be done for it. */
function LaidNote({ laid, wanted }: { laid: Laid; wanted: number }): ReactNode {
  const { faces, irregular, interior, quality, mended, routes } = laid;
  const off = Math.round((100 * Math.abs(faces - wanted)) / wanted);
  const ways = new Set(routes.map(({ route }) => ROUTES[route]).filter((words) => words !== ''));
  return (
    <div role="status">
      <Note>
        <span className="num">{count(faces)}</span> quads{off > 0 ? `, ${off} % off` : ''};{' '}
        <span className="num">{count(irregular)}</span> poles (
        <span className="num">{((100 * irregular) / Math.max(1, interior)).toFixed(1)}</span> %); corners: least{' '}
        <span className="num">{quality.least.toFixed(2)}</span>, mean{' '}
        <span className="num">{quality.mean.toFixed(2)}</span>
      </Note>
      {[...ways, ...mended].map((line) => (
        <Note key={line}>{line}</Note>
      ))}
    </div>
  );
}
