import type { SculptSurface, WalkingForm } from '../../surface';
import type { Density } from '../form/density';
import type { Curve } from './lines';

/** What quads are laid on. */
export interface Ground {
  surface: SculptSurface;
  curves: readonly Curve[];
  /** the form itself, and the working mesh, which is it without its crinkles */
  forms: readonly [WalkingForm, WalkingForm];
  density: Density | null;
}
