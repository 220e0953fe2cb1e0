import { proxy, type Remote } from 'comlink';
import { plainPiece } from '@half-loop/contract';
import { HalfLoopError } from '@half-loop/core/errors';
import { decodeMesh, EMPTY_SELECTION, type PolyMesh, type Selection } from '@half-loop/core/mesh';
import { keptSide, OPERATORS, runOperator, setRegion, type Ground, type Operator } from '@half-loop/core/ops';
import type { SheetAsked } from '@half-loop/core/retopo';
import type { SheetWorker } from '../workers/sheetWorker';
import { besidePage, type BesideRun, type Tell } from './besidePage';
import { changePieces, freshId } from './pieceSteps';
import type { Session } from './Session';

/** A sheet from a region, with what it gets besides. */
export interface SheetWanted extends Pick<SheetAsked, 'edge' | 'followForm'> {
  /** file units; 0: none */
  thickness: number;
  /** loops along each border that hold it under subdivision; 0: none */
  holding: number;
}

/** What is to be told of a sheet that was made. */
export interface SheetTold {
  faces: number;
  /** file units: the shortest and the longest */
  borderEdges: [number, number];
  /** and besides */
  told: string[];
}

/** Width of a holding loop, of the border's edges. */
const HOLD = 0.2;

/** Makes a sheet over a painted region, as a new piece in hand: one step. Settles with what is to be told of it. */
export function sheetFrom(session: Session, region: number, wanted: SheetWanted, tell: Tell): BesideRun<SheetTold> {
  const worker = new Worker(new URL('../workers/sheetWorker.ts', import.meta.url), { type: 'module' });
  return besidePage<SheetWorker, SheetTold>(worker, tell, (remote, heard) =>
    work(session, remote, region, wanted, heard),
  );
}

async function work(
  session: Session,
  worker: Remote<SheetWorker>,
  region: number,
  { thickness, holding, ...asked }: SheetWanted,
  tell: Tell,
): Promise<SheetTold> {
  const { surface, settings, plane, sculptRegions } = session;
  const own = settings.regions.find((r) => r.id === region);
  if (!surface || !own) throw new HalfLoopError('TOPOLOGY', 'This region is not there any more.');
  const form = { positions: surface.positions, indices: surface.indices };
  const side = plane && keptSide(session.mesh, plane);
  const made = await worker.sheet(form, sculptRegions.labels, region, { ...asked, evenness: 0.3, plane, side }, proxy(tell)); // prettier-ignore
  const mesh = decodeMesh(made.mesh);
  const told = [...made.told];
  const ground: Ground = { plane, form: null };
  const all = (): Selection => ({ ...EMPTY_SELECTION, faces: [...mesh.faces()] });
  const also = (name: string, params: object): void => void told.push(done(mesh, name, params, all(), ground));
  runOperator(mesh, setRegion, all(), { region });
  if (holding > 0) also('holding-borders', { side: 'inner', loops: holding, width: HOLD * holding * asked.edge });
  if (thickness > 0) also('thicken', { thickness, grows: 'outward' });
  const piece = plainPiece(freshId(session), own.name, mesh);
  changePieces(session, `Sheet from “${own.name}”`, [...session.document.pieces, piece], piece.id);
  return { faces: made.faces, borderEdges: made.borderEdges, told };
}

/** Runs an operator on the sheet; one that is refused is told, and the sheet stays as it was. */
function done(mesh: PolyMesh, name: string, params: object, selection: Selection, ground: Ground): string {
  try {
    return runOperator(mesh, OPERATORS.get(name) as Operator, selection, params as never, ground).report.sentence;
  } catch (error) {
    if (error instanceof HalfLoopError) return error.message;
    throw error;
  }
}
