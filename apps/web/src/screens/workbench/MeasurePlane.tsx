import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { SymmetryProposal } from '@half-loop/core/surface';
import { Button, Note } from '../../kit';
import { messageOf, useSession, withSculptWorker } from '../../session';
import { mirroredWords, nearlyWords, planeWith } from '../symmetryWords';

type State = { name: 'idle' } | { name: 'measuring' } | { name: 'said'; words: string } | { name: 'failed'; message: string }; // prettier-ignore

/** Looks for the plane that mirrors the sculpt onto itself, beside the page: some ten thousand nearest places. Leaving ends that. */
export function MeasurePlane(): ReactNode {
  const session = useSession();
  const [state, setState] = useState<State>({ name: 'idle' });
  const run = useRef<AbortController | null>(null);
  useEffect(() => () => run.current?.abort(), []);
  const { surface } = session;
  if (!surface) return null;

  const tell = (planes: readonly SymmetryProposal[]): void => {
    const { unit, symmetry } = session.settings;
    const own = planeWith(planes, 'alike');
    const found = own ?? planeWith(planes, 'nearly');
    if (!found) return setState({ name: 'said', words: 'No plane mirrors the sculpt onto itself.' });
    const words = own
      ? `Symmetrical across ${own.axis}. ${mirroredWords(own, surface.diagonal, unit)}`
      : `The sculpt is ${nearlyWords(found, surface.diagonal, unit)}`;
    setState({ name: 'said', words });
    // one side stands for both unasked only where they are alike
    const { axis, offset } = found;
    session.changeSettings('Symmetry measured', { symmetry: { on: own !== undefined || symmetry.on, axis, offset } });
  };
  const measure = (): void => {
    const controller = new AbortController();
    run.current = controller;
    setState({ name: 'measuring' });
    withSculptWorker((worker) => worker.symmetry(surface.toData()), controller.signal).then(tell, (error: unknown) =>
      setState(controller.signal.aborted ? { name: 'idle' } : { name: 'failed', message: messageOf(error) }),
    );
  };
  return state.name === 'measuring' ? (
    <>
      <Note role="status">Measuring its symmetry …</Note>
      <Button onPress={() => run.current?.abort()}>Cancel</Button>
    </>
  ) : (
    <>
      <Button onPress={measure}>Measure the plane</Button>
      {state.name === 'said' && <Note role="status">{state.words}</Note>}
      {state.name === 'failed' && <p role="alert">{state.message}</p>}
    </>
  );
}
