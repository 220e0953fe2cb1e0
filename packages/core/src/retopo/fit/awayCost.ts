/** Nearer than this share of a quad's length is near enough. */
export const NEAR = 0.12;
/** How much more a place costs where it is far off: one that is half a quad off matters, many that are a tenth off hardly do. */
const LONG = 60;

/** What a place costs that is off, by the square of how far, in quads' lengths; none while it is near. */
export const awayCost = (squared: number): number =>
  squared > NEAR * NEAR ? (squared - NEAR * NEAR) * (1 + LONG * squared) : 0;
