import type { Unit } from '@half-loop/contract';

const whole = new Intl.NumberFormat('en');
export const count = (n: number): string => whole.format(n);

/** So many of something that takes an s. */
export const counted = (n: number, one: string): string => `${count(n)} ${one}${n === 1 ? '' : 's'}`;

/** A length with its unit, three significant digits. */
export function lengthText(value: number, unit: Unit): string {
  if (value === 0) return `0 ${unit}`;
  const digits = Math.max(0, Math.min(4, 2 - Math.floor(Math.log10(Math.abs(value)))));
  return `${value.toFixed(digits)} ${unit}`;
}

/** A moment as people say it. */
export function timeText(iso: string | number): string {
  const then = new Date(iso);
  const sameDay = then.toDateString() === new Date().toDateString();
  const time = then.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
  return sameDay
    ? `today ${time}`
    : `${then.toLocaleDateString('en-GB', { day: 'numeric', month: 'short', year: 'numeric' })}, ${time}`;
}

export const STAGE_NAMES = {
  gather: 'Gather',
  lay: 'Lay',
  flow: 'Flow',
  trim: 'Trim',
  prove: 'Prove',
  ship: 'Ship',
} as const;
