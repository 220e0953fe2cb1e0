/** The command was called wrongly: exit 2 with the usage. */
export class UsageError extends Error {}

export interface ArgumentSpec {
  /** names of the files, in order */
  files: readonly string[];
  flags: readonly string[];
  /** options with a number, and their defaults */
  numbers: Readonly<Record<string, number>>;
  /** options with a text, as '--ops' or '-o'; whether they must be there */
  texts?: Readonly<Record<string, 'needed' | 'optional'>>;
}
export interface Arguments {
  files: string[];
  flags: ReadonlySet<string>;
  numbers: Readonly<Record<string, number>>;
  texts: Readonly<Record<string, string>>;
}
export interface Answer {
  /** the JSON object */
  data: object;
  /** the same for people */
  lines: string[];
}
export interface Command extends ArgumentSpec {
  /** what `half-loop NAME --help` prints: usage, what comes out, an example that runs */
  help: string;
  run(args: Arguments): Promise<Answer>;
}

/** Files in order, flags, and options with a number or a text. Throws UsageError. */
export function parseArguments(argv: readonly string[], spec: ArgumentSpec): Arguments {
  const files: string[] = [];
  const flags = new Set<string>();
  const numbers = { ...spec.numbers };
  const texts: Record<string, string> = {};
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i];
    const name = word.replace(/^--?/, '');
    if (!word.startsWith('-') || word === '-') files.push(word);
    else if (Object.hasOwn(spec.texts ?? {}, word)) {
      if (argv[i + 1] === undefined) throw new UsageError(`${word} wants a value`);
      texts[name] = argv[++i];
    } else if (spec.flags.includes(name)) flags.add(name);
    else if (Object.hasOwn(spec.numbers, name)) {
      const value = Number(argv[++i]);
      if (!Number.isFinite(value)) throw new UsageError(`${word} wants a number`);
      numbers[name] = value;
    } else throw new UsageError(`unknown option ${word}`);
  }
  if (files.length !== spec.files.length) throw new UsageError(`expected ${spec.files.join(' and ')}`);
  for (const [word, need] of Object.entries(spec.texts ?? {}))
    if (need === 'needed' && texts[word.replace(/^--?/, '')] === undefined) throw new UsageError(`${word} is needed`);
  return { files, flags, numbers, texts };
}
