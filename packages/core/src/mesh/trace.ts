import type { ChannelSpec } from './Delta';
import type { PolyMesh } from './PolyMesh';

/**
 * What an edit left behind on a face: 1 when it made a triangle or n-gon out of something else and nobody has looked
 * at it yet, 2 when the artist said that it is meant to be. Lives in the mesh, so that undo and saving carry it.
 */
export const TRACE_CHANNEL = {
  domain: 'face',
  name: 'trace',
  type: 'u8',
  stride: 1,
  fill: 0,
} as const satisfies ChannelSpec;
export const TRACE = { none: 0, lit: 1, meant: 2 } as const;

/** Notes what became of a face that had `sidesBefore` sides. A quad leaves no trace. Constant cost. */
export function markTrace(mesh: PolyMesh, f: number, sidesBefore: number): void {
  const sides = mesh.faceHalves(f).length;
  const known = mesh.findChannel('face', TRACE_CHANNEL.name);
  if (sides === 4) {
    if (known && known.get(f) !== TRACE.none) known.set(f, TRACE.none);
  } else if (sides !== sidesBefore) mesh.channel(TRACE_CHANNEL).set(f, TRACE.lit);
}

/** Faces that wait to be looked at, and those that are meant to be as they are. Cost: the faces. */
export function tracedFaces(mesh: PolyMesh): { lit: number[]; meant: number[] } {
  const column = mesh.findChannel('face', TRACE_CHANNEL.name);
  const found = { lit: [] as number[], meant: [] as number[] };
  if (!column) return found;
  for (const f of mesh.faces()) {
    if (column.get(f) === TRACE.lit) found.lit.push(f);
    else if (column.get(f) === TRACE.meant) found.meant.push(f);
  }
  return found;
}
