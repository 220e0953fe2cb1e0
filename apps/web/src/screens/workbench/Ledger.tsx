import { useMemo, type ReactNode } from 'react';
import styled from 'styled-components';
import { isMidlineEdge, measurePicked, poleKind, polesOf, type MakeUp } from '@half-loop/core/inspect';
import { edgeEnds, EMPTY_SELECTION, releasedTest, tracedFaces, type Selection } from '@half-loop/core/mesh';
import {
  besideMidline,
  meantToBe,
  mend,
  threadEnds,
  threadTroubles,
  tieThreads,
  type ThreadTroubles,
  toMidline,
} from '@half-loop/core/ops';

import { Button, Heading, Note, PoleShape, Row } from '../../kit';
import { makeUpOf, useSession, type Session } from '../../session';
import { useBench } from './Bench';
import { count, lengthText } from '../format';
import { History } from './History';

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
const Finding = styled.button<{ $bad: boolean }>`
  display: grid;
  grid-template-columns: 12px 1fr auto;
  gap: 8px;
  align-items: center;
  width: 100%;
  text-align: left;
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  border-radius: 7px;
  padding: 5px 6px;
  cursor: pointer;
  &:hover {
    background: ${(p) => p.theme.paper2};
  }
  i {
    width: 9px;
    height: 9px;
    border-radius: ${(p) => (p.$bad ? '2px' : '50%')};
    transform: ${(p) => (p.$bad ? 'rotate(45deg)' : 'none')};
    background: ${(p) => (p.$bad ? p.theme.kiln : p.theme.moss)};
  }
`;
const COUNTED = ['mesh', 'reset', 'settings', 'pieces', 'recipe'] as const;

/** What is true now: budget, make-up, poles, what needs a look, distance, steps. */
export function Ledger(): ReactNode {
  return (
    <>
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

/** What the artist should look at, each line to be pressed, and what mends it. */
function NeedsALook({ session, up, version }: { session: Session; up: MakeUp; version: number }): ReactNode {
  const traced = useMemo(() => tracedFaces(session.mesh), [session, version]);
  const beside = useMemo(() => (session.plane ? besideMidline(session.mesh, session.plane) : []), [session, version]);
  const ends = useMemo(() => (up.looseEdges > 0 ? threadEnds(session.mesh) : []), [session, up, version]);
  const { nearThreads } = useBench();
  const untied = useMemo(() => (up.looseEdges > 0 ? threadTroubles(session.mesh, nearThreads) : null), [session, up, version, nearThreads]); // prettier-ignore
  const leftAlone = Object.values(up.released).reduce((sum, n) => sum + n, 0);
  return (
    <>
      <Heading>Needs a look</Heading>
      <Look
        label={session.plane ? 'Open edges off the midline' : 'Open edges'}
        n={up.openEdges - up.released.openEdges}
        onPress={() => session.select(openEdges(session))}
      />
      <Look label="N-gons" n={up.ngons - up.released.ngons} onPress={() => session.select(ngons(session))} />
      <Look
        label="Poles of six and more"
        n={up.poles.sixPlus - up.released.sixPlus}
        onPress={() => session.select(highPoles(session))}
      />
      {traced.lit.length > 0 && (
        <>
          <Look
            label="Left by edits"
            n={traced.lit.length}
            onPress={() => session.select({ ...EMPTY_SELECTION, faces: traced.lit })}
          />
          <Button onPress={() => session.run(mend, {}, EMPTY_SELECTION)}>Mend them</Button>
          <Button onPress={() => session.run(meantToBe, {}, EMPTY_SELECTION)}>Meant to be</Button>
        </>
      )}
      {traced.meant.length > 0 && <Line label="Meant to be as they are" value={count(traced.meant.length)} />}
      {beside.length > 0 && (
        <>
          <Look
            label="Points beside the midline"
            n={beside.length}
            onPress={() => session.select({ ...EMPTY_SELECTION, vertices: beside })}
          />
          <Button onPress={() => session.run(toMidline, {}, EMPTY_SELECTION)}>Bring them onto it</Button>
        </>
      )}
      {ends.length > 0 && (
        <Look
          label="Open ends of threads"
          n={ends.length}
          onPress={() => session.select({ ...EMPTY_SELECTION, vertices: ends })}
        />
      )}
      {untied && <Untied session={session} untied={untied} within={nearThreads} />}
      {up.looseEdges > up.released.looseEdges && (
        <Look
          label="Loose edges"
          n={up.looseEdges - up.released.looseEdges}
          onPress={() => session.select(looseEdges(session))}
        />
      )}
      {up.poles.two > up.released.two && (
        <Look
          label="Inner points with two edges"
          n={up.poles.two - up.released.two}
          onPress={() => session.select(doublets(session))}
        />
      )}
      {leftAlone > 0 && <Line label="Left alone at released points" value={count(leftAlone)} />}
    </>
  );
}

/** Threads that nearly meet, or cross without a point, and what ties them. */
function Untied({ session, untied, within }: { session: Session; untied: ThreadTroubles; within: number }): ReactNode {
  const { nearPoints, nearEdges, crossings } = untied;
  const near = [...nearPoints, ...nearEdges].map((n) => n.end);
  if (near.length + crossings.length === 0) return null;
  const crossed = crossings.flatMap((c) => c.edges);
  return (
    <>
      {near.length > 0 && (
        <Look
          label="Ends of threads near others"
          n={near.length}
          onPress={() => session.select({ ...EMPTY_SELECTION, vertices: near })}
        />
      )}
      {crossed.length > 0 && (
        <Look
          label="Threads crossing without a point"
          n={crossings.length}
          onPress={() => session.select({ ...EMPTY_SELECTION, edges: crossed })}
        />
      )}
      <Button onPress={() => session.run(tieThreads, { within }, EMPTY_SELECTION)}>Tie them</Button>
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

function Line({ label, value }: { label: string; value: string }): ReactNode {
  return (
    <Row>
      <span>{label}</span>
      <span className="num">{value}</span>
    </Row>
  );
}

/** A count that can be pressed: what it counts becomes picked. */
function Look({ label, n, onPress }: { label: string; n: number; onPress: () => void }): ReactNode {
  return (
    <Finding type="button" $bad={n > 0} onClick={onPress} disabled={n === 0}>
      <i />
      <span>{n > 0 ? label : `No ${label[0].toLowerCase()}${label.slice(1)}`}</span>
      <span className="num">{count(n)}</span>
    </Finding>
  );
}

/** Edges that are to be looked at: those between released points are left out. */
const edgesWhere = ({ mesh }: Session, test: (e: number) => boolean): Selection => {
  const isReleased = releasedTest(mesh);
  return { ...EMPTY_SELECTION, edges: [...mesh.edges()].filter((e) => test(e) && !isReleased(edgeEnds(mesh, e))) };
};
const openEdges = (session: Session): Selection =>
  edgesWhere(session, (e) => session.mesh.isBorderEdge(e) && !isMidlineEdge(session.mesh, e, session.plane));
const looseEdges = (session: Session): Selection => edgesWhere(session, (e) => session.mesh.isLooseEdge(e));
const ngons = ({ mesh }: Session): Selection => {
  const isReleased = releasedTest(mesh);
  return {
    ...EMPTY_SELECTION,
    faces: [...mesh.faces()].filter((f) => mesh.faceHalves(f).length > 4 && !isReleased(mesh.faceVertices(f))),
  };
};
const polesBy = ({ mesh, plane }: Session, kind: string): Selection => {
  const isReleased = releasedTest(mesh);
  const poles = polesOf(mesh, plane).filter((p) => poleKind(p.valence) === kind && !isReleased([p.vertex]));
  return { ...EMPTY_SELECTION, vertices: poles.map((p) => p.vertex) };
};
const highPoles = (s: Session): Selection => polesBy(s, 'sixPlus');
const doublets = (s: Session): Selection => polesBy(s, 'two');

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
          {summary.measuredFaces < summary.faces && (
            <Note>{count(summary.faces - summary.measuredFaces)} faces still to be measured</Note>
          )}
        </>
      )}
    </>
  );
}
