import { soupFromMesh } from '@half-loop/core/mesh';
import { liftedForm, type Form } from '@half-loop/core/ops';
import { sculptFromSoup, SculptSurface, WalkingForm } from '@half-loop/core/surface';
import type { Session } from '../../session';
import { nearestOnLine, type Vec3 } from '@half-loop/core/math';
import type { StickTo, ViewSettings } from '../../viewport';

/** Whether points can be held at a gap off a form: off the piece's own they would wander, more with each gesture. */
export const canHaveGap = (hold: ViewSettings['hold']): boolean => !['own', 'guides', 'free'].includes(hold);

/**
 * The forms that points can be held on: the sculpt, the piece's own surface as it is when a gesture begins, or a copy of it that
 * was kept. A gesture asks once and keeps what it gets.
 */
export class FormKeeper {
  private sculpt: WalkingForm | null = null;
  private kept: WalkingForm | null = null;

  constructor(
    private readonly session: Session,
    private readonly held: () => Pick<ViewSettings, 'hold' | 'holdGap'>,
    /** a piece as a surface */
    private readonly surfaceOf: (name: StickTo) => SculptSurface | null,
  ) {}

  /** The form that points are held on, at its gap. */
  form(): Form | null {
    const { hold, holdGap } = this.held();
    const form = this.formOf(hold);
    return form && holdGap !== 0 && canHaveGap(hold) ? liftedForm(form, holdGap) : form;
  }

  /** A form by its name: what is laid sticks to it. */
  formOf(hold: ViewSettings['hold']): Form | null {
    const { surface } = this.session;
    switch (hold) {
      case 'sculpt':
        if (surface) (this.sculpt ??= new WalkingForm(surface)).lines = this.session.sculptRegions.formLines();
        return this.sculpt;
      case 'own':
        return this.ownForm();
      case 'copy':
        return this.kept;
      case 'guides':
        return this.guideForm();
      case 'free':
      case 'plane':
        return null;
      default: {
        const other = this.surfaceOf(hold);
        return other && new WalkingForm(other);
      }
    }
  }

  /** The nearest point of all guides; null without one. */
  private guideForm(): Form | null {
    const { guides } = this.session.settings;
    if (guides.length === 0) return null;
    const closest = (p: Vec3): { point: Vec3; normal: Vec3 } => {
      const found = guides.map(({ points, closed }) => nearestOnLine(p, points, closed).point);
      const far = (q: Vec3): number => Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
      return { point: found.reduce((a, b) => (far(b) < far(a) ? b : a)), normal: [0, 1, 0] };
    };
    return { closest };
  }

  /** Whose outline the low-poly's is compared with: the kept copy's when points are held on it, else the sculpt's. */
  outlined(): SculptSurface | null {
    return this.held().hold === 'copy' || !this.session.surface ? (this.kept?.surface ?? null) : this.session.surface;
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
