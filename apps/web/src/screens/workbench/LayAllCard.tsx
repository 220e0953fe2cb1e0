import { useState, type ReactNode } from 'react';
import { Link, useLocation } from 'react-router';
import type { JobCard } from '@half-loop/contract';
import { Button, Buttons, Choice, MainButton, Note, NumberBoxField, Range, Toggle } from '../../kit';
import { regionOfFaces } from '@half-loop/core/ops';
import { messageOf, triesOf, useSession, type KeptAs, type LayOptions, type Session } from '../../session';
import { Progress } from '../Progress';
import { useBench } from './Bench';
import { Card } from './Card';
import { FlowNote } from './FlowNote';
import { FollowForm } from './FollowForm';
import { HowMany } from './HowMany';
import { Keep, Looks, Outcome, useShown } from './LayAllResult';
import { useFlow } from './useFlow';
import { useLaying } from './useLaying';

/** How many quads should be laid over what, and how, for as long as the asset is open. */
interface Asked {
  /** null: as many as the budget */
  faces: number | null;
  over: 'sculpt' | 'piece';
  showsFlow: boolean;
  evenness: number;
  followForm: number;
  keepsSharp: boolean;
  angle: number;
  dropDust: boolean;
  guides: boolean;
  regions: boolean;
  levels: '0' | '1' | '2' | '3';
  smoothing: number;
  followsLoops: boolean;
  densities: boolean;
  tries: '1' | '2' | '4';
}
const START: Asked = { faces: null, over: 'sculpt', showsFlow: true, evenness: 0.7, followForm: 1, keepsSharp: false, angle: 40, dropDust: true, guides: true, regions: true, levels: '0', smoothing: 0, followsLoops: false, densities: true, tries: '1' }; // prettier-ignore

/** Automatic retopology: how many and how, progress, and what came of it, to look at, to keep or to drop. */
export function LayAllCard(): ReactNode {
  const session = useSession('settings', 'mesh', 'reset', 'pieces');
  const { view, settings } = useBench();
  const [isOpen, setOpen] = useState(useLocation().hash === '#lay-all');
  const asked: Asked = { ...START, ...settings.of('lay-all') };
  const { faces, showsFlow } = asked;
  const over = session.surface ? asked.over : 'piece';
  const [chosen, setChosen] = useState<string | null>(null);
  const [isAwaited, setAwaited] = useState(false);
  const { ways, under, refused, start, cancel, keep, drop } = useLaying();
  const ended = ways.filter((job) => job.state === 'done' || job.state === 'refused');
  const way = ended.find((job) => job.id === chosen) ?? ended[0];
  const { laid, error } = useShown(isOpen ? way : undefined);
  const wanted = faces ?? session.settings.budget;
  const { guides } = session.settings;
  const times = timesOf(session);
  const options = optionsOf(session, over, wanted, { ...asked, regions: asked.regions && isOpen });
  const wish = JSON.stringify(options);
  // what was kept is looked at, not the flow, until something else is asked for
  const [kept, setKept] = useState<string | null>(null);
  const nothing = over === 'piece' && session.mesh.faceCount === 0;
  const flow = useFlow(isOpen && showsFlow && wish !== kept && !nothing && !under && !laid, over, options);
  const hasRegions = isOpen && regionsIn(session, over);
  const begin = (): void => {
    setChosen(null);
    setAwaited(true);
    view.set({ wipe: 0 });
    start(over, triesOf(options, Number(asked.tries)));
  };
  const change = (by: Partial<Asked>): void => settings.remember('lay-all', by);
  const showFlow = (showsFlow: boolean): void => {
    change({ showsFlow });
    setKept(null);
  };
  const keepIt = (as: KeptAs): void => {
    if (laid) keep(laid, as);
    setKept(wish);
  };
  return (
    <Card
      glyph="lay-all"
      title="Lay all"
      aside={under ? `${Math.round(100 * under.done)} %` : asideOf(ended)}
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Quads all over, along the form. What is there stays until you keep the result."
      foot={
        under ? (
          <UnderWay ways={ways} under={under} onCancel={cancel} />
        ) : (
          <Buttons>
            {laid && <Keep isEmpty={session.mesh.faceCount === 0} onKeep={keepIt} onDrop={drop} />}
            {way?.refusal && <Button onPress={drop}>Drop</Button>}
            <MainButton isDisabled={nothing} onPress={begin}>
              {ended.length > 0 ? 'Lay it all again' : 'Lay it all'}
            </MainButton>
          </Buttons>
        )
      }
    >
      {!under && way && (
        <Outcome way={way} ended={ended} laid={laid} times={times} isAwaited={isAwaited} onChoose={setChosen} />
      )}
      {
        session.surface &&
        <Choice label="Over" value={over} options={[['sculpt', 'the sculpt'], ['piece', 'this piece']]} onChange={(over) => change({ over })} /> // prettier-ignore
      }
      <HowMany over={over} faces={wanted} onChange={(faces) => change({ faces })} />
      <Toggle label="Show the flow first" value={showsFlow && wish !== kept} onChange={showFlow} />
      <FlowNote
        flow={flow}
        asked={options}
        times={times}
        told={way?.refusal}
        onKeepSharp={() => change({ keepsSharp: true })}
      />
      <How
        asked={asked}
        guides={guides.length}
        densities={session.settings.densities.length}
        hasRegions={hasRegions}
        isPiece={over === 'piece'}
        change={change}
      />
      {session.plane && <Note>One half is laid; the other mirrors it to the last bit.</Note>}
      {nothing && <Note>This piece has no faces to lay over.</Note>}
      <Told wrong={refused ?? (error === null ? null : messageOf(error))} />
    </Card>
  );
}

/** What stands beside the card's title once ways have ended. */
const asideOf = (ended: readonly JobCard[]): string =>
  ended.some(({ state }) => state === 'done') ? 'waits for you' : ended.length > 0 ? 'was refused' : '';

const Told = ({ wrong }: { wrong: string | null }): ReactNode => wrong !== null && <p role="alert">{wrong}</p>;

interface UnderWayProps {
  ways: readonly JobCard[];
  under: { stage: string; done: number };
  onCancel: () => void;
}
/** How far it is, with what there is to see of it. */
function UnderWay({ ways, under, onCancel }: UnderWayProps): ReactNode {
  return (
    <>
      <Looks jobs={ways} />
      <Progress label={under.stage} value={under.done} />
      <Button onPress={onCancel}>Cancel</Button>
      <Note>
        Where a form is difficult, several ways are tried and the best is offered. It goes on at the server when you
        leave; <Link to="/jobs">Jobs</Link> lists it.
      </Note>
    </>
  );
}

/** Halves that what is told of one stands for. */
const timesOf = ({ plane }: Session): number => (plane ? 2 : 1);

const regionsIn = ({ settings, mesh }: Session, over: 'sculpt' | 'piece'): boolean =>
  over === 'sculpt' ? settings.sculptRegions !== '' : regionOfFaces(mesh).some((id) => id > 0);

/** What is asked of the engine, by the card and the asset. */
function optionsOf(session: Session, over: 'sculpt' | 'piece', faces: number, asked: Asked): LayOptions {
  const { settings, plane, sculptRegions } = session;
  const { evenness, followForm, dropDust, keepsSharp, angle, smoothing } = asked;
  const isPiece = over === 'piece';
  return {
    faces,
    evenness,
    followForm,
    keepEdges: keepsSharp ? angle : null,
    dropDust,
    plane,
    lines: [...(asked.guides ? settings.guides : []), ...(asked.regions && !isPiece ? sculptRegions.lines() : [])].map(({ points, closed }) => ({ points, closed })), // prettier-ignore
    regions: asked.regions,
    levels: isPiece ? Number(asked.levels) : 0,
    smoothing,
    followsLoops: isPiece && asked.followsLoops,
    densities: asked.densities ? settings.densities : [],
  };
}

interface HowProps {
  asked: Asked;
  /** how many there are */
  guides: number;
  densities: number;
  hasRegions: boolean;
  /** it is laid over a piece, which has loops and a subdivided shape */
  isPiece: boolean;
  change: (change: Partial<Asked>) => void;
}

function How({ asked, guides, densities, hasRegions, isPiece, change }: HowProps): ReactNode {
  const share = { min: 0, max: 1, step: 0.05 };
  return (
    <>
      <Range
        label="Smaller where thin or curved"
        value={asked.evenness}
        {...share}
        show={(v) => (v === 0 ? 'all alike' : v.toFixed(2))}
        onChange={(evenness) => change({ evenness })}
      />
      <FollowForm value={asked.followForm} onChange={(followForm) => change({ followForm })} />
      <Toggle label="Keep sharp edges" value={asked.keepsSharp} onChange={(keepsSharp) => change({ keepsSharp })} />
      {asked.keepsSharp && (
        <NumberBoxField
          label="Sharper than"
          unit="°"
          value={asked.angle}
          min={10}
          max={120}
          digits={0}
          onChange={(angle) => change({ angle })}
        />
      )}
      {isPiece && (
        <>
          <Toggle
            label="Follow the loops that are there"
            value={asked.followsLoops}
            onChange={(followsLoops) => change({ followsLoops })}
          />
          <Choice
            label="Subdivided first"
            value={asked.levels}
            options={[
              ['0', 'as it is'],
              ['1', '1 level'],
              ['2', '2'],
              ['3', '3'],
            ]}
            onChange={(levels) => change({ levels })}
          />
        </>
      )}
      <Range
        label="Smooth the form first"
        value={asked.smoothing}
        min={0}
        max={60}
        step={5}
        show={(v) => (v === 0 ? 'as it is' : `${v} rounds`)}
        onChange={(smoothing) => change({ smoothing })}
      />
      {guides > 0 && (
        <Toggle label={`Follow the guides: ${guides}`} value={asked.guides} onChange={(on) => change({ guides: on })} />
      )}
      {densities > 0 && (
        <Toggle
          label={`Painted density: ${densities}`}
          value={asked.densities}
          onChange={(on) => change({ densities: on })}
        />
      )}
      {hasRegions && (
        <Toggle label="Edges along region borders" value={asked.regions} onChange={(regions) => change({ regions })} />
      )}
      <Toggle
        label="Leave out parts under two quads"
        value={asked.dropDust}
        onChange={(dropDust) => change({ dropDust })}
      />
      <Choice
        label="Ways to try"
        value={asked.tries}
        options={[
          ['1', 'one'],
          ['2', 'two'],
          ['4', 'four'],
        ]}
        onChange={(tries) => change({ tries })}
      />
    </>
  );
}
