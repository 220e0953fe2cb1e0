/** The command was called wrongly: exit 2 with the usage. */
export class UsageError extends Error {}

export interface ArgumentSpec {
  files: readonly string[];
  flags: readonly string[];
  numbers: Readonly<Record<string, number>>;
}
export interface Arguments {
  files: string[];
  flags: ReadonlySet<string>;
  numbers: Readonly<Record<string, number>>;
}
export interface Answer {
  /** the JSON object */
  data: object;
  /** the same for people */
  lines: string[];
}
export interface Command extends ArgumentSpec {
  run(args: Arguments): Promise<Answer>;
}

/** Files in order, flags, and options with a number. Throws UsageError. */
export function parseArguments(argv: readonly string[], spec: ArgumentSpec): Arguments {
  const files: string[] = [];
  const flags = new Set<string>();
  const numbers = { ...spec.numbers };
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i];
    if (!word.startsWith('--')) files.push(word);
    else if (spec.flags.includes(word.slice(2))) flags.add(word.slice(2));
    else if (Object.hasOwn(spec.numbers, word.slice(2))) {
      const value = Number(argv[++i]);
      if (!Number.isFinite(value)) throw new UsageError(`${word} wants a number`);
      numbers[word.slice(2)] = value;
    } else throw new UsageError(`unknown option ${word}`);
  }
  if (files.length !== spec.files.length) throw new UsageError(`expected ${spec.files.join(' and ')}`);
  return { files, flags, numbers };
}
