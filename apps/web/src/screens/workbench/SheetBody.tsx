import { useState, type ReactNode } from 'react';
import type { Region, Unit } from '@half-loop/contract';
import { Button, Heading, MainButton, NumberBoxField, Range, Toggle } from '../../kit';
import { sheetFrom, useSession, type SheetTold } from '../../session';
import { counted, lengthText } from '../format';
import { Progress } from '../Progress';
import { useBesideRun } from './useBesideRun';

/** Edges of a sheet's border unless a quad length is wanted: this share of the sculpt's diagonal. */
const EDGE_SHARE = 0.025;

/** Sheet from region: a new piece with an even border, its settings, progress, and what came of it. */
export function SheetBody({ region }: { region: Region }): ReactNode {
  const session = useSession('settings', 'reset');
  const { quadLength, unit } = session.settings;
  const diagonal = session.surface?.diagonal ?? 1;
  const [edge, setEdge] = useState(() => quadLength ?? Number((diagonal * EDGE_SHARE).toPrecision(2)));
  const [thickness, setThickness] = useState(0);
  const [holding, setHolding] = useState(0);
  const [follows, setFollows] = useState(true);
  const { under, failed, begin, stop } = useBesideRun();
  const make = (): void => {
    const wanted = { edge, followForm: follows ? 1 : 0, thickness, holding };
    begin(
      (tell) => sheetFrom(session, region.id, wanted, tell),
      (made) => session.say({ kind: 'done', text: `Sheet from “${region.name}”: ${sheetText(made, unit)}` }),
    );
  };
  return (
    <>
      <Heading>Sheet from “{region.name}”</Heading>
      <NumberBoxField
        label="Edges of its border"
        unit={unit}
        value={edge}
        min={diagonal / 1000}
        digits={4}
        onChange={(v) => v > 0 && setEdge(v)}
      />
      <NumberBoxField
        label="Thickness, 0 for none"
        unit={unit}
        value={thickness}
        min={0}
        digits={4}
        onChange={(v) => setThickness(v >= 0 ? v : 0)}
      />
      <Range
        label="Holding loops"
        value={holding}
        min={0}
        max={4}
        step={1}
        show={(v) => String(v)}
        onChange={setHolding}
      />
      <Toggle label="Follow the form" value={follows} onChange={setFollows} />
      {under ? (
        <>
          <Progress label={under.stage} value={under.done} />
          <Button onPress={stop}>Cancel</Button>
        </>
      ) : (
        <MainButton onPress={make}>Make a sheet</MainButton>
      )}
      {failed !== null && <p role="alert">{failed}</p>}
    </>
  );
}

function sheetText({ faces, borderEdges: [least, greatest], told }: SheetTold, unit: Unit): string {
  return [`${counted(faces, 'face')}, edges of its border ${lengthText(least, unit)} to ${lengthText(greatest, unit)}`, ...told].join('; '); // prettier-ignore
}
