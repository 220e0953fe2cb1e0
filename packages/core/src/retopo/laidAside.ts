import { HalfLoopError } from '../errors';
import type { Triangles } from './form/clean';
import { Laying, type LaidPart } from './Laying';
import type { LayAllOptions } from './options';
import { Stages, type Watch } from './Stages';

/**
 * Lays parts, by their numbers, for `layAll` on another processor, each if it may have it; one that is refused is told as undefined. Cost: cleaning all of the form, and that of its
 * parts.
 */
export function laidAside(
  input: Triangles,
  options: LayAllOptions,
  parts: readonly number[],
  claim: (i: number) => boolean,
  tell: (i: number, laid: LaidPart | undefined) => void,
  watch: Watch = {},
): void {
  const laying = new Laying(input, options);
  const stages = new Stages(watch);
  const laid = (part: number): LaidPart | undefined => {
    try {
      return laying.part(part, stages);
    } catch (error) {
      if (error instanceof HalfLoopError) return undefined;
      throw error;
    }
  };
  for (const [i, part] of parts.entries()) if (claim(i)) tell(i, laid(part));
}
