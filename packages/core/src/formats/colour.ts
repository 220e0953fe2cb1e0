/** One channel of a colour in [0, 1], from the values programs show to amounts of light and back (IEC 61966-2-1). */
export const srgbToLinear = (x: number): number => (x <= 0.04045 ? x / 12.92 : ((x + 0.055) / 1.055) ** 2.4);
export const linearToSrgb = (x: number): number => (x <= 0.0031308 ? x * 12.92 : 1.055 * x ** (1 / 2.4) - 0.055);
