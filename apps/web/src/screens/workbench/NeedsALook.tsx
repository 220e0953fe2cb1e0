import { useMemo, type ReactNode } from 'react';
import styled from 'styled-components';
import { isMidlineEdge, poleKind, polesOf, type MakeUp } from '@half-loop/core/inspect';
import { edgeEnds, EMPTY_SELECTION, releasedTest, tracedFaces, type Selection } from '@half-loop/core/mesh';
import {
  besideMidline,
  meantToBe,
  mend,
  sectorsIn,
  seamOf,
  type Seam,
  threadEnds,
  threadTroubles,
  tieThreads,
  type ThreadTroubles,
  toMidline,
} from '@half-loop/core/ops';
import { Button, Heading } from '../../kit';
import type { Session } from '../../session';
import { count } from '../format';
import { useBench } from './Bench';
import { Line } from './Line';

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
/** What the artist should look at, each line to be pressed, and what mends it. */
export function NeedsALook({ session, up, version }: { session: Session; up: MakeUp; version: number }): ReactNode {
  const traced = useMemo(() => tracedFaces(session.mesh), [session, version]);
  const beside = useMemo(() => (session.plane ? besideMidline(session.mesh, session.plane) : []), [session, version]);
  const seam = useMemo(() => seamIn(session), [session, version]);
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
      {seam && seam.apart.length > 0 && (
        <Look
          label="Points of the seam apart"
          n={seam.apart.length}
          onPress={() => session.select({ ...EMPTY_SELECTION, vertices: seam.apart })}
        />
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

/** Where sectors of the piece in hand meet; null where it has none. */
function seamIn({ mesh, piece }: Session): Seam | null {
  const joined = sectorsIn(piece, mesh);
  return joined && seamOf(mesh, joined.sectors, joined.within);
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
