import { useMemo, type ReactNode } from 'react';
import styled from 'styled-components';
import type { Stage } from '@half-loop/contract';
import { measurePicked } from '@half-loop/core/inspect';
import { Heading, Note, PoleShape } from '../../kit';
import { makeUpOf, useSession } from '../../session';
import { count, counted, lengthText } from '../format';
import { History } from './History';
import { LaidWaits } from './LaidWaits';
import { Line } from './Line';
import { NeedsALook } from './NeedsALook';
import { WorstPlace } from './WorstPlace';

const Budget = styled.div<{ $share: number }>`
  .figure {
    font-size: 24px;
    font-weight: 600;
    letter-spacing: -0.02em;
  }
  .bar {
    height: 10px;
    border-radius: 5px;
    background: ${(p) => p.theme.line};
    overflow: hidden;
    margin: 8px 0;
  }
  .bar i {
    display: block;
    height: 100%;
    width: ${(p) => Math.min(100, p.$share * 100)}%;
    background: ${(p) => (p.$share > 1 ? p.theme.kiln : p.theme.glaze)};
  }
`;
const Poles = styled.div`
  display: flex;
  gap: 20px;
  span {
    display: inline-flex;
    align-items: center;
    gap: 6px;
  }
`;
const COUNTED = ['mesh', 'reset', 'settings', 'pieces', 'recipe'] as const;

/** What is true now: budget, make-up, poles, what needs a look, distance, steps. */
export function Ledger({ stage }: { stage: Stage }): ReactNode {
  return (
    <>
      {stage !== 'lay' && <LaidWaits />}
      <Counts />
      <Measured />
      <Distance />
      <History />
    </>
  );
}

function Counts(): ReactNode {
  const session = useSession(...COUNTED);
  const version = COUNTED.reduce((sum, topic) => sum + session.events.version(topic), 0);
  // the version stands for the mesh, which changes in place
  const up = useMemo(() => makeUpOf(session.recipes.shipped()), [session, version]);
  const { budget } = session.settings;
  const share = (n: number): string => (up.faces > 0 ? ` ${((100 * n) / up.faces).toFixed(1)}%` : '');
  return (
    <>
      <Heading style={{ marginTop: 0 }}>Face budget</Heading>
      <Budget $share={up.faces / budget}>
        <span className="figure num" data-testid="faces">
          {count(up.faces)}
        </span>{' '}
        of {count(budget)} faces
        <div className="bar">
          <i />
        </div>
      </Budget>
      <Heading>Make-up</Heading>
      <Line label="Quads" value={`${count(up.quads)}${share(up.quads)}`} />
      <Line label="Triangles" value={count(up.triangles)} />
      <Line label="N-gons" value={count(up.ngons)} />
      <Line label="Points" value={count(up.vertices)} />
      <Heading>Poles</Heading>
      <Poles>
        <span aria-label={`${up.poles.three} poles of three edges`}>
          <PoleShape kind="three" /> <span className="num">{count(up.poles.three)}</span>
        </span>
        <span aria-label={`${up.poles.five} poles of five edges`}>
          <PoleShape kind="five" /> <span className="num">{count(up.poles.five)}</span>
        </span>
        <span aria-label={`${up.poles.sixPlus} poles of six and more edges`}>
          <PoleShape kind="sixPlus" /> <span className="num">{count(up.poles.sixPlus)}</span>
        </span>
      </Poles>
      <NeedsALook session={session} up={up} version={version} />
    </>
  );
}

/** What is picked, and a tape over it when it is two points, or one or two runs of edges. */
function Measured(): ReactNode {
  const session = useSession('selection', 'mesh', 'settings');
  const { vertices, edges, faces } = session.selection;
  if (vertices.length + edges.length + faces.length === 0) return null;
  const measure = measurePicked(session.mesh, session.selection);
  const { unit } = session.settings;
  return (
    <>
      <Heading>What is picked</Heading>
      {vertices.length > 0 && <Line label="Points picked" value={count(vertices.length)} />}
      {edges.length > 0 && <Line label="Edges picked" value={count(edges.length)} />}
      {faces.length > 0 && <Line label="Faces picked" value={count(faces.length)} />}
      {measure?.kind === 'two' && (
        <>
          <Line label="Lengths" value={measure.lengths.map((l) => lengthText(l, unit)).join(' and ')} />
          <Line label="One over the other" value={measure.ratio.toFixed(3)} />
          <Line label="Angle between" value={`${measure.angle.toFixed(1)}°`} />
        </>
      )}
      {measure && measure.kind !== 'two' && (
        <Line label={measure.kind === 'points' ? 'Apart' : 'Length'} value={lengthText(measure.length, unit)} />
      )}
    </>
  );
}

function Distance(): ReactNode {
  const session = useSession('distance', 'settings', 'reset');
  const { summary } = session.distance;
  const { unit } = session.settings;
  return (
    <>
      <Heading>Distance from the sculpt</Heading>
      {!summary && <Note>This asset has no sculpt.</Note>}
      {summary && summary.faces === 0 && <Note>Nothing laid yet.</Note>}
      {summary && summary.faces > 0 && (
        <>
          <Line label="Typical" value={lengthText(summary.typical, unit)} />
          <Line label="Worst" value={lengthText(summary.worst, unit)} />
          <WorstPlace at={summary.worstAt} />
          {summary.measuredFaces < summary.faces && (
            <Note>{counted(summary.faces - summary.measuredFaces, 'face')} still to be measured</Note>
          )}
        </>
      )}
    </>
  );
}
