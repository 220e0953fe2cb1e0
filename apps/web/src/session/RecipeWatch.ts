import { wrap, type Remote } from 'comlink';
import type { AssetDocument } from '@half-loop/contract';
import type { MirrorPlane } from '@half-loop/core/math';
import { decodeMesh, type PolyMesh } from '@half-loop/core/mesh';
import { cutters, isFollowed, type Told } from '@half-loop/core/ops';
import type { RecipeWorker } from '../workers/recipeWorker';
import { packPieces } from '../workers/recipes';
import type { Emitter } from './Emitter';

interface Watched {
  readonly events: Emitter;
  readonly document: AssetDocument;
  readonly plane: MirrorPlane | null;
}
/** What a recipe makes of a piece, as last heard: the mesh, and what each step came to. */
export interface MadeMesh {
  mesh: PolyMesh;
  told: readonly Told[];
}
/** A mesh as it counts: with the plane that its other half is derived across, if it is half. */
export interface Shipped {
  mesh: PolyMesh;
  plane: MirrorPlane | null;
}

/**
 * Follows the recipes of the document's pieces in a worker, whenever something they depend on has changed: one run at a time, the next one
 * with the newest state. An edit costs the page a copy of the pieces with recipes.
 */
export class RecipeWatch {
  private results = new Map<string, MadeMesh>();
  private worker: { thread: Worker; remote: Remote<RecipeWorker> } | null = null;
  private isRunning = false;
  private isStale = false;
  private stopped = false;

  constructor(private readonly session: Watched) {
    const { events } = session;
    for (const topic of ['mesh', 'reset', 'settings', 'pieces'] as const) events.on(topic, () => this.wake());
    this.wake();
  }

  /** What a piece's recipe makes of it; null without one, or before it was first followed. */
  made(id: string): MadeMesh | null {
    return this.results.get(id) ?? null;
  }
  /** Whether what is shown is older than the document. */
  get isBehind(): boolean {
    return this.isRunning || this.isStale;
  }

  /** What would ship now, as last heard. */
  shipped(): Shipped[] {
    const { document, plane } = this.session;
    return document.pieces
      .filter((p) => p.visible && !p.guide)
      .map((p) => {
        const made = isFollowed(p) ? this.results.get(p.id) : undefined;
        return made ? { mesh: made.mesh, plane: null } : { mesh: p.mesh, plane };
      });
  }

  stop(): void {
    this.stopped = true;
    this.worker?.thread.terminate();
    this.worker = null;
  }

  private wake(): void {
    if (this.stopped) return;
    this.isStale = true;
    if (!this.isRunning) void this.run();
  }

  private async run(): Promise<void> {
    this.isRunning = true;
    // what else changes in this task is taken along
    await Promise.resolve();
    while (this.isStale && !this.stopped) {
      this.isStale = false;
      const { pieces } = this.session.document;
      const cutting = cutters(pieces);
      const needed = pieces.filter((p) => isFollowed(p) || cutting.has(p.id));
      if (needed.length === 0) {
        this.take(new Map());
        continue;
      }
      try {
        const made = await this.remote().follow(packPieces(needed), this.session.plane);
        this.take(new Map(made.map(({ id, bytes, told }) => [id, { mesh: decodeMesh(bytes), told }])));
      } catch (error) {
        const sentence = `The recipe could not be followed: ${error instanceof Error ? error.message : String(error)}`;
        this.take(new Map(needed.filter(isFollowed).map((p) => [p.id, { mesh: p.mesh, told: p.recipe.map(() => ({ sentence, refused: true, counts: {} })) }]))); // prettier-ignore
      }
    }
    this.isRunning = false;
  }

  private take(results: Map<string, MadeMesh>): void {
    if (this.stopped || (results.size === 0 && this.results.size === 0)) return;
    this.results = results;
    this.session.events.emit('recipe', undefined);
  }

  private remote(): Remote<RecipeWorker> {
    if (!this.worker) {
      const thread = new Worker(new URL('../workers/recipeWorker.ts', import.meta.url), { type: 'module' });
      this.worker = { thread, remote: wrap<RecipeWorker>(thread) };
    }
    return this.worker.remote;
  }
}
