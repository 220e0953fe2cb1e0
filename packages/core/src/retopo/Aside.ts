import type { Triangles } from './form/clean';
import type { LaidPart } from './LaidPart';
import type { LayAllOptions } from './options';

/** A part by its number; or one way to lay its first piece, which is the largest, by its place in the order of ways. */
export interface Errand {
  part: number;
  way?: number;
}

/** Errands under way on another processor, which takes one after the other, as does who asked. What comes of them does not depend on who has which. */
export interface AsideWork {
  /** Takes the errand that stands here in their order; false where the other has it already. */
  claim(i: number): boolean;
  /** Whether the other has done it. */
  isDone(i: number): boolean;
  /** What the other made of it, waited for; undefined where it failed, or fell silent. A way that leads to nothing sound has no piece. */
  answer(i: number): LaidPart | undefined;
  /** Nothing more is wanted of it. */
  stop(): void;
}

/** Does some errands on another processor while this one does others. */
export interface Aside {
  /** `errands` in the order in which they are taken. */
  start(input: Triangles, options: LayAllOptions, errands: readonly Errand[]): AsideWork;
}

/** Begins work on errands of the form in hand. */
export type StartAside = (errands: readonly Errand[]) => AsideWork;
