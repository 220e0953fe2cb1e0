import { useEffect, type ReactNode } from 'react';
import styled from 'styled-components';
import { Button, Choice, Note, Range } from '../../kit';
import { decodeMesh } from '@half-loop/core/mesh';
import type { KeptAs, LayResult } from '../../session';
import type { Laid } from '../../workers/layAllWorker';
import { count } from '../format';
import { useBench, useView } from './Bench';

/** Shows the chosen result in the view in place of the piece in hand, until it is kept or dropped. */
export function useShown(results: readonly LayResult[], chosen: number): Laid | null {
  const { view, session } = useBench();
  const result = results[chosen];
  const laid = result && 'laid' in result ? result.laid : null;
  const isHalf = session.plane !== null;
  useEffect(() => {
    view.set({ tried: laid && { mesh: decodeMesh(laid.bytes), isHalf } });
    return () => view.set({ tried: null });
  }, [view, laid, isHalf]);
  return laid;
}

/** The results side by side, to look at one after another with the same view. */
export function Tries({
  results,
  chosen,
  onChoose,
}: {
  results: readonly LayResult[];
  chosen: number;
  onChoose: (i: number) => void;
}): ReactNode {
  // prettier-ignore
  const words = (result: LayResult): string =>
    'laid' in result
      ? `${result.label}: ${count(result.laid.faces)} quads, ${count(result.laid.irregular)} poles, least corner ${result.laid.quality.least.toFixed(2)}`
      : `${result.label}: refused`;
  return (
    <Choice
      label="Show"
      value={String(chosen)}
      options={results.map((result, i) => [String(i), words(result)] as [string, string])}
      onChange={(i) => onChoose(Number(i))}
    />
  );
}

/** How much of the view shows what was there before, from the left. */
export function Before(): ReactNode {
  const { view } = useBench();
  const { wipe } = useView();
  return (
    <Range
      label="Wipe to before"
      value={wipe}
      min={0}
      max={1}
      step={0.01}
      show={(v) => (v === 0 ? 'after only' : v === 1 ? 'before only' : `${Math.round(100 * v)} %`)}
      onChange={(value) => view.set({ wipe: value })}
    />
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
export function Keep({ isEmpty, onKeep, onDrop }: KeepProps): ReactNode {
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
export function LaidNote({ laid, wanted }: { laid: Laid; wanted: number }): ReactNode {
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
