import { HalfLoopError } from '../errors';
import type { Errand } from './Aside';
import type { Triangles } from './form/clean';
import type { LaidPart } from './LaidPart';
import { Laying } from './Laying';
import type { LayAllOptions } from './options';
import { Stages, type Watch } from './Stages';

/**
 * Does errands for `layAll` on another processor, each if it may have it; one that is refused is told as undefined. Cost: cleaning all of the form, and laying
 * the parts; ways of one part ready it once.
 */
export function laidAside(
  input: Triangles,
  options: LayAllOptions,
  errands: readonly Errand[],
  claim: (i: number) => boolean,
  tell: (i: number, laid: LaidPart | undefined) => void,
  watch: Watch = {},
): void {
  const laying = new Laying(input, options);
  const stages = new Stages(watch);
  const laid = ({ part, way }: Errand): LaidPart | undefined => {
    try {
      return way === undefined ? laying.part(part, stages) : laying.partByWay(part, way, stages);
    } catch (error) {
      if (error instanceof HalfLoopError) return undefined;
      throw error;
    }
  };
  for (const [i, errand] of errands.entries()) if (claim(i)) tell(i, laid(errand));
}
