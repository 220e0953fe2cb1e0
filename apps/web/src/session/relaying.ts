import { proxy, type Remote } from 'comlink';
import { HalfLoopError } from '@half-loop/core/errors';
import { boxDiagonal, type Box } from '@half-loop/core/math';
import { boxOfFaces, encodeMesh } from '@half-loop/core/mesh';
import { OPERATORS, type Operator } from '@half-loop/core/ops';
import type { RelayAsked } from '@half-loop/core/retopo';
import type { TriangleData } from '@half-loop/core/surface';
import type { RelayWorker } from '../workers/relayWorker';
import { besidePage, type BesideRun, type Tell } from './besidePage';
import type { Session } from './Session';

/** Round the picked faces, in shares of their box's diagonal, the form is taken along. */
const ROUND = 0.25;

/** Lays the picked faces anew, on the sculpt where there is one. What changes the piece meanwhile is found out at the end, and told. */
export function relayPicked(session: Session, asked: RelayAsked, tell: Tell): BesideRun<void> {
  const worker = new Worker(new URL('../workers/relayWorker.ts', import.meta.url), { type: 'module' });
  return besidePage<RelayWorker, void>(worker, tell, (remote, heard) => work(session, remote, asked, heard));
}

async function work(session: Session, worker: Remote<RelayWorker>, asked: RelayAsked, tell: Tell): Promise<void> {
  const { selection, mesh, surface, piece, steps } = session;
  const faces = [...selection.faces];
  const form = surface && trianglesNear(surface, boxOfFaces(mesh, faces));
  const made = await worker.relay(encodeMesh(mesh), faces, asked, form, proxy(tell));
  if (session.piece.id !== piece.id || session.steps.position !== steps.position)
    throw new HalfLoopError('TOPOLOGY', 'The piece was changed while its faces were laid anew; pick them and lay them again.'); // prettier-ignore
  session.run(OPERATORS.get('relay') as Operator, made, { vertices: [], edges: [], faces });
}

/** The triangles that reach into a box, made somewhat larger, or all where none do. Cost: one pass. */
function trianglesNear({ positions: p, indices }: TriangleData, box: Box): TriangleData {
  const round = ROUND * boxDiagonal(box);
  const outside = (i: number, k: number): number => {
    const [a, b, c] = [p[3 * indices[i] + k], p[3 * indices[i + 1] + k], p[3 * indices[i + 2] + k]];
    return Math.max(Math.min(a, b, c) - box.max[k], box.min[k] - Math.max(a, b, c));
  };
  const kept: number[] = [];
  for (let i = 0; i < indices.length; i += 3)
    if (outside(i, 0) <= round && outside(i, 1) <= round && outside(i, 2) <= round) kept.push(indices[i], indices[i + 1], indices[i + 2]); // prettier-ignore
  return { positions: p, indices: kept.length > 0 ? Uint32Array.from(kept) : indices };
}
