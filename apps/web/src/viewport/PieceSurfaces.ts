import { soupFromMesh } from '@half-loop/core/mesh';
import { sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import type { Session } from '../session';

/** What the surfaces that points stick to are called: the sculpt, a work plane, or a piece by its id. */
export type StickTo = 'sculpt' | 'plane' | `piece:${string}`;

/** The pieces as surfaces that points stick to, built when they are first asked for and kept while they do not change. */
export class PieceSurfaces {
  private readonly known = new Map<string, SculptSurface>();

  constructor(private readonly session: Session) {}

  /** The surface by its name: null for the work plane, a piece that is gone or empty, or the one in hand. */
  of(name: StickTo): SculptSurface | null {
    const { session } = this;
    if (name === 'sculpt') return session.surface;
    const piece = session.document.pieces.find((p) => name === `piece:${p.id}`);
    if (!piece || piece.id === session.piece.id) return null;
    const mesh = session.recipes.made(piece.id)?.mesh ?? piece.mesh;
    if (mesh.faceCount === 0) return null;
    const surface = this.known.get(piece.id) ?? SculptSurface.build(sculptFromSoup(soupFromMesh(mesh)));
    this.known.set(piece.id, surface);
    return surface;
  }

  /** Forgets all: pieces have changed. */
  clear(): void {
    this.known.clear();
  }
}
