import type { Triangles } from './form/clean';
import type { LaidPart } from './Laying';
import type { LayAllOptions } from './options';

/** Some parts of a form under way on another processor, which takes one after the other, as does who asked. What comes of them does not depend on who has which. */
export interface AsideWork {
  /** Takes the part that stands here in their order; false where the other has it already. */
  claim(i: number): boolean;
  /** What the other made of it, waited for; undefined where it failed, or fell silent. */
  answer(i: number): LaidPart | undefined;
  /** Nothing more is wanted of it. */
  stop(): void;
}

/** Lays some parts on another processor while this one lays others. */
export interface Aside {
  /** `parts` by their numbers, in the order in which they are taken. */
  start(input: Triangles, options: LayAllOptions, parts: readonly number[]): AsideWork;
}
