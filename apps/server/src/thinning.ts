const MINUTE = 60_000,
  HOUR = 60 * MINUTE,
  DAY = 24 * HOUR;

/** Which autosaves may go: of those in one minute, hour (after an hour) or day (after a day) only the last stays, and the newest of all. */
export function thinned<T extends { revision: number; savedAt: Date }>(saves: readonly T[], now: number): T[] {
  const newest = [...saves].sort((a, b) => b.revision - a.revision);
  const kept = new Set<string>();
  return newest.filter(({ savedAt }, i) => {
    const age = now - savedAt.getTime();
    const slot = age < HOUR ? MINUTE : age < DAY ? HOUR : DAY;
    const key = `${slot}:${Math.floor(savedAt.getTime() / slot)}`;
    const repeats = kept.has(key);
    kept.add(key);
    return repeats && i > 0;
  });
}
