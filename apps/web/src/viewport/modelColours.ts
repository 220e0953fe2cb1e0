import { SLIP } from '../kit/theme';
import { srgb } from './materials';

/** The model is coloured alike in both themes, since it stands on the same neutral ground. */
export const MODEL_COLOURS = {
  ink: srgb(SLIP.ink),
  active: srgb(SLIP.glazeInk),
  picked: srgb(SLIP.plum),
  pointed: srgb(SLIP.honey),
  back: srgb(SLIP.kiln),
} as const;
