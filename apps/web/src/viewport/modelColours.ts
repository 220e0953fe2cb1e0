import { SLIP } from '../kit/theme';
import { srgb } from './materials';

/** The model is coloured alike in both themes, since it stands on the same neutral ground. */
export const MODEL_COLOURS = {
  ink: srgb(SLIP.ink),
  active: srgb(SLIP.glazeInk),
  picked: srgb(SLIP.plum),
  pointed: srgb(SLIP.honey),
  back: srgb(SLIP.kiln),
  /** painted for more quads, and for fewer */
  denser: srgb('#5b3a8a'),
  sparser: srgb('#c98a1b'),
} as const;
