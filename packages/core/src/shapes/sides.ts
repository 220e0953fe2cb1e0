/** Sides of a circle whose faces come nearest to a width. */
export const sidesByWidth = (radius: number, width: number): number =>
  Math.max(3, Math.round(Math.PI / Math.asin(Math.min(1, width / (2 * radius)))));

/** The fewest sides whose outline misses the circle by no more than an error, in the same units: r(1 − cos(π/n)). */
export const sidesByOutline = (radius: number, error: number): number =>
  Math.max(3, Math.ceil(Math.PI / Math.acos(Math.max(0, 1 - error / radius)) - 1e-9));

/** The length of one side of an n-gon in a circle. */
export const widthOfSide = (radius: number, sides: number): number => 2 * radius * Math.sin(Math.PI / sides);
