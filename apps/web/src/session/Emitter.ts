/** What a session tells its views about. */
export interface Topics {
  /** elements to draw again */
  mesh: import('@half-loop/core/mesh').Touched;
  /** everything to draw again: another document took its place */
  reset: undefined;
  settings: undefined;
  /** what pieces are besides their meshes */
  pieces: undefined;
  /** what recipes make of pieces has come in */
  recipe: undefined;
  selection: undefined;
  history: undefined;
  save: undefined;
  distance: undefined;
  notice: undefined;
}
export type Topic = keyof Topics;

export class Emitter {
  private readonly listeners = new Map<Topic, Set<(value: never) => void>>();
  private readonly versions = new Map<Topic, number>();

  on<T extends Topic>(topic: T, listener: (value: Topics[T]) => void): () => void {
    const set = this.listeners.get(topic) ?? new Set();
    this.listeners.set(topic, set);
    set.add(listener as (value: never) => void);
    return () => set.delete(listener as (value: never) => void);
  }
  emit<T extends Topic>(topic: T, value: Topics[T]): void {
    this.versions.set(topic, this.version(topic) + 1);
    for (const listener of this.listeners.get(topic) ?? []) (listener as (value: Topics[T]) => void)(value);
  }
  /** Goes up with every emit; a snapshot for React. */
  version(topic: Topic): number {
    return this.versions.get(topic) ?? 0;
  }
}
