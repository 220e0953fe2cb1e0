import type { ReactNode } from 'react';
import { lengthsAlong } from '@half-loop/core/math';
import { SHARP } from '@half-loop/core/retopo';
import { Button, Note } from '../../kit';
import { useSession, type LayOptions } from '../../session';
import { count, lengthText } from '../format';
import { Progress } from '../Progress';
import type { FlowShown } from './useFlow';

interface FlowNoteProps {
  flow: FlowShown;
  asked: LayOptions;
  /** halves that the flow stands for */
  times: number;
  /** why Lay all was refused, which need not be said twice */
  told: string | null | undefined;
  onKeepSharp: () => void;
}

/** What the flow in the view tells: lines, poles, and what of the form gets loops or comes out blunt. */
export function FlowNote({ flow, asked: { keepEdges }, times, told, onKeepSharp }: FlowNoteProps): ReactNode {
  const { settings, surface } = useSession('settings', 'reset');
  // without a sculpt a guide lies on the piece only if its card says so
  const where = surface ? '' : ' that lies on this piece';
  const { under, shown, failed } = flow;
  if (failed !== null) return failed !== told && <p role="alert">{failed}</p>;
  if (under) return <Progress label={`Flow: ${under.stage}`} value={under.done} />;
  if (!shown) return null;
  const { poles, ridges, sharp } = shown;
  const long = sharp.reduce((sum, line) => sum + lengthsAlong(line)[line.length - 1], 0);
  const all = <span className="num">{lengthText(times * long, settings.unit)}</span>;
  return (
    <>
      <Note>
        Loops would run along these lines, with <span className="num">{count(times * poles.length)}</span> poles. Where
        that is wrong, draw a guide{where}.
      </Note>
      {ridges.length > 0 && <Note>Thick lines: ridges and grooves that rows of edges are drawn onto.</Note>}
      {long > 0 && keepEdges !== null && <Note>Double lines: sharp edges that are kept, {all} in all.</Note>}
      {long > 0 && keepEdges === null && (
        <>
          <Note>
            Broken double lines: edges sharper than <span className="num">{SHARP}°</span>, {all} in all. They come out
            blunt unless they are kept.
          </Note>
          <Button onPress={onKeepSharp}>Keep sharp edges</Button>
        </>
      )}
    </>
  );
}
