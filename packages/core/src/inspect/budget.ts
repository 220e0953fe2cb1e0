export const PURPOSES = ['bends', 'rigid', 'still', 'subdivided'] as const;
export type Purpose = (typeof PURPOSES)[number];

/** Side of a face on screen, in pixels, that each purpose gets along with. */
const FACE_SIDE_PX: Record<Purpose, number> = { bends: 11, rigid: 15, still: 13, subdivided: 22 };

/**
 * A budget in faces: the model's surface at the size it is seen, as a body twice as tall as wide on average (area about
 * π/2 · height² over a full turn), in faces whose side fits the purpose; to two significant digits, 40 at least.
 */
export function proposeBudget(purpose: Purpose, seenHeightPx: number): number {
  const area = (Math.PI / 2) * seenHeightPx * seenHeightPx;
  const faces = area / FACE_SIDE_PX[purpose] ** 2;
  const step = 10 ** Math.max(0, Math.floor(Math.log10(Math.max(1, faces))) - 1);
  return Math.max(40, Math.round(faces / step) * step);
}
