import type { ChannelSpec } from './Delta';

/** What holds each vertex: nothing, itself (locked), or nothing, not even the form (released). */
export const PIN_CHANNEL = { domain: 'vertex', name: 'pin', type: 'i32', stride: 1, fill: 0 } as const satisfies ChannelSpec; // prettier-ignore
export const PIN = { free: 0, locked: 1, released: 2 } as const;

/** What of a mesh decides whether a vertex may move. */
interface Holding {
  findChannel(domain: 'vertex', name: string): { data: ArrayLike<number> } | undefined;
  position: { data: ArrayLike<number> };
  stayed: Set<number>;
}

/** Whether a vertex is locked, and so stays rather than go to p; one that p would have moved is put into `stayed`. */
export function staysLocked(mesh: Holding, v: number, p: readonly number[]): boolean {
  if (mesh.findChannel('vertex', PIN_CHANNEL.name)?.data[v] !== PIN.locked) return false;
  const { data } = mesh.position;
  if (data[3 * v] !== p[0] || data[3 * v + 1] !== p[1] || data[3 * v + 2] !== p[2]) mesh.stayed.add(v);
  return true;
}
