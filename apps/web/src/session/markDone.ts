import type { Stage } from '@half-loop/contract';
import type { Session } from './Session';

/** Marks a stage done, or opens it again, as one step. */
export function markDone(session: Session, stage: Stage, isDone: boolean): void {
  const { document, selection } = session;
  const before = document.done;
  const after = isDone ? [...new Set([...before, stage])] : before.filter((s) => s !== stage);
  document.done = after;
  session.keep(`${stage[0].toUpperCase()}${stage.slice(1)} ${isDone ? 'marked done' : 'opened again'}`, {
    done: { before, after },
    selection: { before: selection, after: selection },
  });
  session.events.emit('settings', undefined);
}
