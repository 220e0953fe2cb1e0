import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { TopologyError } from '@half-loop/core/errors';
import type { Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, type PolyMesh } from '@half-loop/core/mesh';
import { closeCells, closesCell, threadCells, threadTroubles, tieThreads, withCell, type CellChoice, type ThreadCell } from '@half-loop/core/ops'; // prettier-ignore
import { Button, MainButton, Note, Toggle } from '../../kit';
import { useSession, type Drag } from '../../session';
import { seenSide } from '../../tools';
import { useBench, type Bench } from './Bench';
import { LatestNote } from './OperatorCard';
import { OperatorFields } from './OperatorFields';

/** Cells of more than so many sides are asked about. */
const PLAIN = 4;
/** Larger cells that are listed, at most. */
const LISTED = 12;

/** Threads while they are drawn: what nearly meets is tied, and the faces that would close all cells are shown until they are kept. */
export function ThreadBody(): ReactNode {
  const bench = useBench();
  const session = useSession('mesh', 'reset', 'history', 'settings');
  const { mesh } = session;
  const [isShown, setShown] = useState(false);
  const [told, setTold] = useState<string | null>(null);
  const { drag, cells, hasThreads, troubles } = useThreads(bench, isShown, setTold);
  const choice = bench.settings.of(closeCells.name) as unknown as CellChoice;
  const keep = (): void => {
    const done = drag.current?.commit();
    setShown(false);
    if (!done) session.say({ kind: 'refused', text: told ?? 'No cell is closed yet.' });
  };
  // those that are asked about, and those that were left open in the view
  const larger = cells.filter((c) => c.vertices.length > PLAIN || choice.except.includes(c.name));
  const show = ({ vertices }: ThreadCell): void => bench.scene?.goTo(vertices.map((v) => mesh.point(v)));
  const missed = troubles.nearPoints.length + troubles.nearEdges.length + troubles.crossings.length;
  return (
    <>
      {missed > 0 && (
        <>
          <Note role="status">
            <span className="num">{missed}</span> {missed === 1 ? 'place' : 'places'} where threads nearly meet or cross
            without a point.
          </Note>
          <Button onPress={() => session.run(tieThreads, { within: bench.nearThreads }, EMPTY_SELECTION)}>
            Tie them
          </Button>
        </>
      )}
      <OperatorFields name={closeCells.name} />
      {larger.slice(0, LISTED).map((cell) => (
        <div key={cell.name} style={{ display: 'flex', gap: 6, alignItems: 'center' }}>
          <Button aria-label={`Show the cell of ${cell.vertices.length} sides`} onPress={() => show(cell)}>
            Show
          </Button>
          <div style={{ flex: 1 }}>
            <Toggle
              label={`Close the cell of ${cell.vertices.length} sides`}
              value={closesCell(choice, cell)}
              onChange={(closes) => bench.settings.remember(closeCells.name, { ...withCell(choice, cell, closes) })}
            />
          </div>
        </div>
      ))}
      {larger.length > LISTED && (
        <Note>{larger.length - LISTED} more of over four sides stay as the number above says.</Note>
      )}
      {isShown && told !== null && <Note role="status">{told}. Threads can still be drawn.</Note>}
      {isShown && hasThreads ? (
        <>
          <MainButton onPress={keep}>Keep these faces</MainButton>
          <Button onPress={() => setShown(false)}>Leave the threads</Button>
        </>
      ) : (
        <Button isDisabled={!hasThreads} onPress={() => setShown(true)}>
          Close every cell
        </Button>
      )}
      {!isShown && <LatestNote name={closeCells.name} />}
    </>
  );
}

/** What threads there are now, and the faces that would close their cells, in the view as a preview for as long as they are wanted. */
function useThreads(
  bench: Bench,
  isShown: boolean,
  tell: (text: string) => void,
): {
  drag: { current: Drag | null };
  cells: ThreadCell[];
  hasThreads: boolean;
  troubles: ReturnType<typeof threadTroubles>;
} {
  const { session } = bench;
  const { mesh } = session;
  const drag = useRef<Drag | null>(null);
  const settings = bench.settings.of(closeCells.name);
  // turning the view alone changes nothing
  const asked = JSON.stringify([settings, session.steps.position, session.piece.id]);
  // a preview is no step: what was read before it began holds as long as no step is made
  const { position } = session.steps;
  const read = useMemo(
    () => ({
      cells: threadCells(mesh, facing(bench, mesh), session.ground),
      hasThreads: [...mesh.edges()].some((e) => mesh.isLooseEdge(e)),
      troubles: threadTroubles(mesh, bench.nearThreads),
    }),
    [position, mesh, bench, session],
  );
  useEffect(() => {
    if (!isShown || !read.hasThreads) return;
    const open = session.drag();
    drag.current = open;
    const done = open.update(closeCells, EMPTY_SELECTION, { ...settings, facing: [...facing(bench, mesh)] } as never);
    tell(done instanceof TopologyError ? done.message.replace(/\.$/, '') : done.report.sentence);
    return () => {
      open.cancel();
      drag.current = null;
    };
    // `asked` stands for the settings and the threads
  }, [isShown, asked, read, session]);
  return { drag, ...read };
}

const facing = ({ scene }: Bench, mesh: PolyMesh): Vec3 => (scene ? seenSide(scene, mesh) : [0, 0, 1]);
