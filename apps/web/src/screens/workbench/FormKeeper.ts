import { soupFromMesh } from '@half-loop/core/mesh';
import type { Form } from '@half-loop/core/ops';
import { sculptFromSoup, SculptSurface, WalkingForm } from '@half-loop/core/surface';
import type { Session } from '../../session';
import type { ViewSettings } from '../../viewport';

/**
 * The forms that points can be held on: the sculpt, the piece's own surface as it is when a gesture begins, or a copy of it that
 * was kept. A gesture asks once and keeps what it gets.
 */
export class FormKeeper {
  private sculpt: WalkingForm | null = null;
  private kept: WalkingForm | null = null;

  constructor(
    private readonly session: Session,
    private readonly hold: () => ViewSettings['hold'],
  ) {}

  form(): Form | null {
    const { surface } = this.session;
    switch (this.hold()) {
      case 'sculpt':
        if (surface) this.sculpt ??= new WalkingForm(surface);
        return this.sculpt;
      case 'own':
        return this.ownForm();
      case 'copy':
        return this.kept;
      default:
        return null;
    }
  }

  /** Whose outline the low-poly's is compared with: the kept copy's when points are held on it, else the sculpt's. */
  outlined(): SculptSurface | null {
    return this.hold() === 'copy' || !this.session.surface ? (this.kept?.surface ?? null) : this.session.surface;
  }

  get hasCopy(): boolean {
    return this.kept !== null;
  }

  /** Keeps the surface as it is now. False when there is none. */
  keepCopy(): boolean {
    this.kept = this.ownForm();
    return this.kept !== null;
  }

  private ownForm(): WalkingForm | null {
    if (this.session.mesh.faceCount === 0) return null;
    return new WalkingForm(SculptSurface.build(sculptFromSoup(soupFromMesh(this.session.mesh))));
  }
}
