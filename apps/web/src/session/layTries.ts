import type { LayAllAsk } from '@half-loop/contract';

/** What is asked for, but for what it is laid over. */
export type LayOptions = Omit<LayAllAsk, 'piece'>;

/** One way of laying all: what is different about it. */
export interface LayTry {
  label: string;
  options: LayOptions;
}

/** As asked for, and up to three ways that differ in one thing: sizes, the form, the count. */
export function triesOf(options: LayOptions, count: number): LayTry[] {
  const isEven = options.evenness < 0.35;
  const follows = options.followForm > 0.35;
  const all: LayTry[] = [
    { label: 'As asked', options },
    {
      label: isEven ? 'Smaller where thin or curved' : 'Sizes all alike',
      options: { ...options, evenness: isEven ? 0.9 : 0 },
    },
    {
      label: follows ? 'Smoothest flow' : 'Along the form',
      options: { ...options, followForm: follows ? 0 : 1 },
    },
    { label: 'A third more', options: { ...options, faces: Math.round((4 / 3) * options.faces) } },
  ];
  return all.slice(0, count);
}
