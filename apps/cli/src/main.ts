import { HalfLoopError } from '@half-loop/core/errors';
import { check } from './check';
import { compare } from './compare';
import { convert } from './convert';
import { edit } from './edit';
import { info } from './info';
import { retopo } from './retopo';
import { parseArguments, UsageError } from './arguments';

const USAGE = `half-loop COMMAND

  info FILE [--json] [--no-weld]                      counts, components, borders, poles, size
  check FILE [--sculpt FILE] [--json]                 the proof sheet as data: findings and measures
  convert IN OUT [--json] [--no-weld]                 writes by OUT's ending
  compare LOW HIGH [--json] [--seed N]                two-sided distance: rms, mean, max
  edit FILE --ops OPS.json -o OUT [--json]            operators and selection queries, in order
  retopo FILE -o OUT --faces N [--symmetry x] [--json] quads over all of it, about N

half-loop COMMAND --help says more and has an example.
Reads OBJ, PLY, STL, OFF, GLB and glTF; writes OBJ, PLY, STL, OFF, GLB and USDA. STL and glTF are welded on exactly
equal positions unless --no-weld. --json prints one JSON object.
Exit 0: done; 1: refused, one line on standard error; 2: wrong usage.`;

const COMMANDS = { info, check, convert, compare, edit, retopo };

async function main(argv: string[]): Promise<number> {
  const [name, ...rest] = argv;
  if (name === undefined || name === '--help' || name === 'help') {
    process.stdout.write(`${USAGE}\n`);
    return name === undefined ? 2 : 0;
  }
  try {
    if (!Object.hasOwn(COMMANDS, name)) throw new UsageError(`unknown command “${name}”`);
    const { run, ...spec } = COMMANDS[name as keyof typeof COMMANDS];
    if (rest.includes('--help')) {
      process.stdout.write(`${spec.help}\n`);
      return 0;
    }
    const args = parseArguments(rest, spec);
    const { data, lines } = await run(args);
    process.stdout.write(`${args.flags.has('json') ? JSON.stringify(data) : lines.join('\n')}\n`);
    return 0;
  } catch (error) {
    if (error instanceof UsageError) {
      process.stderr.write(`half-loop: ${error.message}\n\n${USAGE}\n`);
      return 2;
    }
    const message =
      error instanceof HalfLoopError || isFileError(error) ? (error as Error).message : `unexpected: ${String(error)}`;
    process.stderr.write(`half-loop: ${message.replaceAll('\n', ' ')}\n`);
    return 1;
  }
}

const isFileError = (error: unknown): boolean => error instanceof Error && 'code' in error && 'syscall' in error;

process.exitCode = await main(process.argv.slice(2));
