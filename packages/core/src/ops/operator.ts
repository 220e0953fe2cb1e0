import * as z from 'zod/mini';
import { HalfLoopError, TopologyError } from '../errors';
import { liveSelection, type Delta, type PolyMesh, type Selection } from '../mesh';
import { BARE_GROUND, checkMidline, Memo, type Ground } from './ground';

/** What an operator did, in words and in numbers. */
export interface Report {
  sentence: string;
  counts: Readonly<Record<string, number>>;
}

export interface Outcome {
  selection: Selection;
  report: Report;
}

/** One change to a mesh: the tool cards, the command list, the command line and the tests read these. */
export interface Operator<S extends z.ZodMiniType = z.ZodMiniType> {
  name: string;
  title: string;
  params: S;
  /** whether it would take too long to be run live: interfaces then run it beside the page, where it can be stopped */
  isSlow?(mesh: PolyMesh, params: z.infer<S>): boolean;
  run(mesh: PolyMesh, selection: Selection, params: z.infer<S>, ground: Ground): Outcome;
}

export const operator = <S extends z.ZodMiniType>(definition: Operator<S>): Operator<S> => definition;

/**
 * Runs an operator as one transaction. Throws BAD_INPUT naming the parameter, or the operator's
 * TopologyError; after a throw the mesh is bit for bit what it was. Cost: what the operator touches.
 */
export function runOperator<S extends z.ZodMiniType>(
  mesh: PolyMesh,
  op: Operator<S>,
  selection: Selection,
  params: z.input<S>,
  ground: Ground = BARE_GROUND,
): Outcome & { delta: Delta } {
  const parsed = parseParams(op, params);
  checkLock(ground);
  mesh.begin();
  try {
    const outcome = op.run(mesh, liveSelection(mesh, selection), parsed, ground);
    checkMidline(mesh, ground);
    return { ...withStayed(outcome, mesh), delta: mesh.commit() };
  } catch (error) {
    mesh.rollback();
    throw error;
  }
}

/** Throws NO_WAY where nothing may be changed. */
function checkLock({ locked }: Ground): void {
  if (locked) throw new TopologyError('NO_WAY', locked);
}

/** What was done, and how many locked points stayed where they would have been moved. */
function withStayed({ selection, report }: Outcome, { stayed }: PolyMesh): Outcome {
  if (stayed.size === 0) return { selection, report };
  const { sentence, counts } = report;
  return { selection, report: { sentence: `${sentence}; ${plural(stayed.size, 'locked point')} stayed`, counts: { ...counts, stayed: stayed.size } } }; // prettier-ignore
}

/** Settings as the operator wants them, defaults filled in. Throws BAD_INPUT naming the parameter. */
export function parseParams<S extends z.ZodMiniType>(op: Operator<S>, params: unknown): z.infer<S> {
  const parsed = z.safeParse(op.params, params);
  if (parsed.success) return parsed.data as z.infer<S>;
  const issue = parsed.error.issues[0];
  throw new HalfLoopError('BAD_INPUT', `${op.title}: ${issue.path.join('.') || 'parameters'}: ${issue.message}.`);
}

/**
 * One drag: an open transaction in which an operator is run again and again, each time from the state
 * at the start. Close it with `commit` or `cancel`. Cost of an update: what it touches, twice.
 */
export class Preview {
  private last: Outcome | null = null;
  private open = true;
  private readonly memo = new Memo();
  /** what the memo is about */
  private about: { op: unknown; selection: Selection } | null = null;
  private readonly ground: Ground;

  constructor(
    readonly mesh: PolyMesh,
    ground: Ground = BARE_GROUND,
  ) {
    this.ground = { ...ground, memo: this.memo };
    mesh.begin();
  }

  /** Runs the operator from the starting state; a refusal leaves the starting state and is returned. */
  update<S extends z.ZodMiniType>(op: Operator<S>, selection: Selection, params: z.input<S>): Outcome | TopologyError {
    this.mesh.restart();
    this.last = null;
    if (this.about?.op !== op || this.about.selection !== selection) this.memo.clear();
    this.about = { op, selection };
    try {
      checkLock(this.ground);
      const outcome = op.run(this.mesh, liveSelection(this.mesh, selection), parseParams(op, params), this.ground);
      checkMidline(this.mesh, this.ground);
      this.last = withStayed(outcome, this.mesh);
      return this.last;
    } catch (error) {
      this.mesh.restart();
      if (error instanceof TopologyError) return error;
      this.cancel();
      throw error;
    }
  }

  /** Runs the operator on top of the updates before it, as a brush does; it must not refuse half-way. */
  extend<S extends z.ZodMiniType>(op: Operator<S>, selection: Selection, params: z.input<S>): Outcome {
    this.memo.clear();
    checkLock(this.ground);
    this.last = op.run(this.mesh, liveSelection(this.mesh, selection), parseParams(op, params), this.ground);
    return this.last;
  }

  /** Keeps the last update; null when it was refused or never made. */
  commit(): (Outcome & { delta: Delta }) | null {
    if (!this.last) {
      this.cancel();
      return null;
    }
    this.close();
    return { ...this.last, delta: this.mesh.commit() };
  }

  cancel(): void {
    if (!this.open) return;
    this.close();
    this.mesh.rollback();
  }

  private close(): void {
    this.open = false;
    this.memo.clear();
  }
}

export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;
