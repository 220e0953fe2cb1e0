import { TopologyError } from '@half-loop/core/errors';
import { fill, sidesOf } from '@half-loop/core/ops';
import type { Hit } from '../viewport';
import type { ToolHost } from './Tool';

/** The open edge under the pointer: one with a face on one side at most. */
export function openEdgeAt({ session: { mesh } }: ToolHost, hit: Hit | null): number | null {
  const e = hit?.element;
  return e?.kind === 'edge' && mesh.hasEdge(e.id) && (mesh.isBorderEdge(e.id) || mesh.isLooseEdge(e.id)) ? e.id : null;
}

/** How many edges the border under the pointer has, side by side, and whether quads alone can fill it; null where there is none. */
export function borderWords(host: ToolHost, hit: Hit | null): string | null {
  const edge = openEdgeAt(host, hit);
  const { mesh, selection, ground } = host.session;
  if (edge === null || mesh.isLooseEdge(edge)) return null;
  try {
    const { sides, half } = sidesOf(mesh, edge, selection, host.settings(fill.name).angle as number, ground);
    const total = sides.reduce((sum, n) => sum + n, 0);
    const words = `${sides.length > 1 ? `${sides.join(' + ')} = ` : ''}${total} edges`;
    if (half) return `${words} on this half`;
    return total % 2 === 0 ? `${words}, even` : `${words}: odd, so quads alone cannot fill it`;
  } catch (error) {
    if (error instanceof TopologyError) return error.message;
    throw error;
  }
}
