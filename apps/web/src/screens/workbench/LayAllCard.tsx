import { useState, type ReactNode } from 'react';
import { Button, Choice, MainButton, Note, NumberBoxField, Range, Toggle } from '../../kit';
import { messageOf, triesOf, useSession } from '../../session';
import { Progress } from '../Progress';
import { useBench } from './Bench';
import { Card } from './Card';
import { HowMany } from './HowMany';
import { Before, Keep, LaidNote, Tries, useShown } from './LayAllResult';
import { useLaying } from './useLaying';

/** How quads should be laid, as long as the card is there. */
interface Asked {
  evenness: number;
  followForm: number;
  keepsSharp: boolean;
  angle: number;
  dropDust: boolean;
  tries: '1' | '2' | '4';
}
const START: Asked = { evenness: 0.7, followForm: 1, keepsSharp: false, angle: 40, dropDust: true, tries: '1' };

/** Automatic retopology: how many and how, progress, and what came of it, to look at, to keep or to drop. */
export function LayAllCard(): ReactNode {
  const session = useSession('settings', 'mesh', 'reset', 'pieces');
  const { view } = useBench();
  const [isOpen, setOpen] = useState(false);
  const [faces, setFaces] = useState<number | null>(null);
  const [over, setOver] = useState<'sculpt' | 'piece'>(session.surface ? 'sculpt' : 'piece');
  const [asked, setAsked] = useState(START);
  const [chosen, setChosen] = useState(0);
  const { under, results, refused, start, cancel, keep, drop } = useLaying();
  const laid = useShown(results, chosen);
  const wanted = faces ?? session.settings.budget;
  const begin = (): void => {
    const { evenness, followForm, dropDust, keepsSharp, angle } = asked;
    const keepEdges = keepsSharp ? angle : null;
    setChosen(0);
    view.set({ wipe: 0 });
    start(
      over,
      triesOf(
        {
          faces: wanted,
          evenness,
          followForm,
          keepEdges,
          dropDust,
          plane: session.plane,
          lines: session.settings.guides,
          density: null,
        },
        Number(asked.tries),
      ),
    );
  };
  const nothing = over === 'piece' && session.mesh.faceCount === 0;
  const result = results[chosen];
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
      <HowMany over={over} faces={wanted} onChange={setFaces} />
      <How asked={asked} change={(change) => setAsked({ ...asked, ...change })} />
      {session.plane && <Note>One half is laid; the other mirrors it to the last bit.</Note>}
      {under ? (
        <>
          <Progress label={under.stage} value={under.done} />
          <Button onPress={cancel}>Cancel</Button>
        </>
      ) : (
        <MainButton isDisabled={nothing} onPress={begin}>
          {results.length > 0 ? 'Lay it all again' : 'Lay it all'}
        </MainButton>
      )}
      {nothing && <Note>This piece has no faces to lay over.</Note>}
      {refused !== null && <p role="alert">{refused}</p>}
      {results.length > 1 && <Tries results={results} chosen={chosen} onChoose={setChosen} />}
      {result && 'refused' in result && <p role="alert">{messageOf(result.refused)}</p>}
      {laid && (
        <>
          <LaidNote laid={laid} wanted={result.faces / (session.plane ? 2 : 1)} />
          <Before />
          <Keep isEmpty={session.mesh.faceCount === 0} onKeep={(as) => keep(laid, as)} onDrop={drop} />
        </>
      )}
    </Card>
  );
}

function How({ asked, change }: { asked: Asked; change: (change: Partial<Asked>) => void }): ReactNode {
  const share = { min: 0, max: 1, step: 0.05 };
  return (
    <>
      <Range
        label="Sizes by thickness"
        value={asked.evenness}
        {...share}
        show={(v) => (v === 0 ? 'all alike' : v.toFixed(2))}
        onChange={(evenness) => change({ evenness })}
      />
      <Range
        label="Follow the form"
        value={asked.followForm}
        {...share}
        show={(v) => (v === 0 ? 'smoothest' : v.toFixed(2))}
        onChange={(followForm) => change({ followForm })}
      />
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
