import type { MirrorPlane } from '@half-loop/core/math';
import {
  EMPTY_SELECTION,
  edgeLoop,
  edgeRing,
  TRACE,
  TRACE_CHANNEL,
  type PolyMesh,
  type Selection,
} from '@half-loop/core/mesh';
import { loopStops, repairFor, stopWords, type LoopStop } from '@half-loop/core/ops';
import { border, connected, loop, ring, runQuery, strip } from '@half-loop/core/select';
import type { ElementHit } from '../viewport';

export const LIST_OF = { vertex: 'vertices', edge: 'edges', face: 'faces' } as const;

export const oneElement = ({ kind, id }: ElementHit): Selection => ({ ...EMPTY_SELECTION, [LIST_OF[kind]]: [id] });

export function mergedSelection(a: Selection, b: Selection): Selection {
  const join = (x: readonly number[], y: readonly number[]): number[] => [...new Set([...x, ...y])];
  return { vertices: join(a.vertices, b.vertices), edges: join(a.edges, b.edges), faces: join(a.faces, b.faces) };
}

export function toggledSelection(selection: Selection, { kind, id }: ElementHit): Selection {
  const list = selection[LIST_OF[kind]];
  return { ...selection, [LIST_OF[kind]]: list.includes(id) ? list.filter((x) => x !== id) : [...list, id] };
}

/** What a second press on an element takes: its loop or border; with Alt its ring or strip; all that hangs together. */
export function wholeOf(mesh: PolyMesh, element: ElementHit, across: boolean): Selection {
  const one = oneElement(element);
  if (element.kind === 'face') return runQuery(mesh, across ? strip : connected, one, {});
  if (element.kind === 'vertex') return runQuery(mesh, connected, one, {});
  if (across) return runQuery(mesh, ring, one, {});
  return runQuery(mesh, mesh.isBorderEdge(element.id) ? border : loop, one, {});
}

/** The walk of an edge that a second press would take, and in words how long it is and whether it closes. */
export function walkOf(
  mesh: PolyMesh,
  e: number,
  across: boolean,
  plane: MirrorPlane | null,
): { edges: number[]; words: string; stops: LoopStop[] } {
  const walk = across ? edgeRing(mesh, 2 * e) : edgeLoop(mesh, 2 * e);
  const name = across ? 'ring' : 'loop';
  const n = walk.halves.length;
  const words = `${name} of ${n} ${n === 1 ? 'edge' : 'edges'}, ${walk.closed ? 'closes' : 'open'}`;
  const stops = across || walk.closed ? [] : loopStops(mesh, e, { plane, form: null });
  return { edges: walk.halves.map((h) => h >> 1), words: [words, ...new Set(stops.map(stopWords))].join('; '), stops };
}

/** What an edit left at a face, and the repair that one key does; null when it left nothing. */
export function leftWords(mesh: PolyMesh, f: number): string | null {
  if (!mesh.hasFace(f) || mesh.findChannel('face', TRACE_CHANNEL.name)?.get(f) !== TRACE.lit) return null;
  const sides = mesh.faceHalves(f).length;
  const what = sides === 3 ? 'a triangle' : `a face of ${sides} sides`;
  const repair = repairFor(mesh, f);
  return `an edit left ${what}; ${repair ? `N: ${repair.words}` : 'only you can say how it goes on'}`;
}
