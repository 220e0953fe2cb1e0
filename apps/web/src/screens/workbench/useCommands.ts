import { useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Stage } from '@half-loop/contract';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { makeReal, OPERATORS, SHAPES, type Operator } from '@half-loop/core/ops';
import { runQuery, SELECTION_QUERIES } from '@half-loop/core/select';
import { useSession } from '../../session';
import { TOOLS } from '../../tools';
import { LENSES, VIEW_SIDES } from '../../viewport';
import { addShape } from './addShape';
import { STOPS, useBench, type Bench } from './Bench';

export interface Command {
  id: string;
  title: string;
  keys?: string;
  run: () => void;
}
export interface Commands {
  list: Command[];
  shown: 'list' | 'keys' | null;
  openList: () => void;
  openKeys: () => void;
  close: () => void;
}

/** Operators that a press of a button runs on what is picked. */
const BY_BUTTON = ['dissolve', 'fair', 'true', 'relax', 'smooth', 'weld-picked', 'weld-within', 'stitch', 'connect', 'collapse', 'cut-faces', 'spin', 'split', 'poke', 'pair-triangles', 'mend', 'meant-to-be', 'extrude', 'inset', 'bevel', 'subdivide', 'recover-coarser', 'crease', 'thicken', 'bore', 'boolean', 'groove', 'holding-borders', 'copies', 'studs', 'deform', 'draw-along', 'join-halves', 'join-sectors', 'keep-sector', 'settle', 'even-out', 'bridge', 'cap', 'bring-back', 'pin', 'to-midline', 'mirror-over'].map((name) => OPERATORS.get(name) as Operator); // prettier-ignore
const KINDS = ['any', 'vertices', 'edges', 'faces'] as const;
const capital = (s: string): string => s[0].toUpperCase() + s.slice(1);

function commandsOf(bench: Bench, go: (path: string) => void): Command[] {
  const { session, view } = bench;
  const latch = (): void => view.set({ seeThrough: !view.now.seeThrough });
  return [
    ...TOOLS.map((t) => ({ id: t.name, title: t.title, keys: t.key, run: () => bench.pickTool(t.name) })),
    { id: 'undo', title: 'Undo', keys: 'Ctrl Z', run: () => void session.undo() },
    { id: 'redo', title: 'Redo', keys: 'Ctrl Shift Z', run: () => void session.redo() },
    {
      id: 'mend-here',
      title: 'Mend what is pointed at, or all that is lit',
      keys: 'N',
      run: () => bench.mendPointed(),
    },
    { id: 'delete', title: 'Delete what is picked', keys: 'Delete', run: () => bench.deletePicked() },
    ...STOPS.map(({ stage, title }, i) => ({
      id: `stop-${stage}`,
      title: `Go to ${title}`,
      keys: String(i + 1),
      run: () => go(`/a/${session.asset.id}/${stage}`),
    })),
    ...LENSES.map((lens, i) => ({
      id: `lens-${lens}`,
      title: `Lens: ${capital(lens)}`,
      keys: `Shift ${i + 1}`,
      run: () => view.set({ lens }),
    })),
    ...VIEW_SIDES.map((side) => ({
      id: `view-${side}`,
      title: `View from ${side === 'top' ? 'the top' : side === 'under' ? 'under' : `the ${side}`}`,
      run: () => {
        bench.scene?.camera.look(side);
        bench.scene?.invalidate();
        bench.changed();
      },
    })),
    { id: 'show-all', title: 'Show all', keys: '0', run: () => bench.scene?.showAll() },
    { id: 'sculpt', title: 'Sculpt on and off', keys: 'Y', run: () => bench.toggleSculpt() },
    { id: 'through', title: 'See through', keys: 'T', run: latch },
    { id: 'symmetry', title: 'Symmetry on and off', keys: 'M', run: () => bench.toggleSymmetry() },
    {
      id: 'columns',
      title: 'Hide or show both columns',
      keys: '\\',
      run: () => view.set({ columnsHidden: !view.now.columnsHidden }),
    },
    {
      id: 'kind',
      title: 'What can be picked: the next kind',
      keys: 'K',
      run: () => view.set({ kind: KINDS[(KINDS.indexOf(view.now.kind) + 1) % KINDS.length] }),
    },
    ...[...SELECTION_QUERIES.values()].map((q) => ({
      id: `select-${q.name}`,
      title: `Select: ${q.title.toLowerCase()}`,
      run: () => session.select(runQuery(session.mesh, q, session.selection, {}, session.plane)),
    })),
    ...BY_BUTTON.map((op) => ({
      id: `run-${op.name}`,
      title: op.title,
      run: () => void bench.runCard(op),
    })),
    ...SHAPES.map((op) => ({
      id: `add-${op.name}`,
      title: `Add a shape: ${op.title.toLowerCase()}`,
      run: () => addShape(bench, op as unknown as Operator),
    })),
    {
      id: 'lock',
      title: 'Lock or unlock what is picked',
      run: () => view.set({ selectionLocked: !view.now.selectionLocked }),
    },
    ...([0, 1, 2, 3] as const).map((n) => ({
      id: `subdivision-${n}`,
      title: n === 0 ? 'Show the faces as they are' : `Show subdivided, level ${n}`,
      run: () => view.set({ subdivision: n }),
    })),
    { id: 'make-real', title: makeReal.title, run: () => makeMirrorReal(bench) },
    { id: 'versions', title: 'Versions', run: () => go(`/a/${session.asset.id}/versions`) },
    { id: 'library', title: 'Library', run: () => go('/') },
    { id: 'settings', title: 'Settings', run: () => go('/settings') },
  ];
}

/** The mirrored half becomes real and symmetry goes off: two steps, since they are two facts. */
export function makeMirrorReal({ session }: Bench): void {
  const { plane } = session;
  if (!plane)
    return session.say({ kind: 'refused', text: 'Symmetry is off, so there is no mirrored half to make real.' });
  if (!session.run(makeReal, plane, EMPTY_SELECTION)) return;
  session.changeSettings('Symmetry off', { symmetry: { ...session.settings.symmetry, on: false } });
}

/** The command list, and its keys while the workbench is open. */
export function useCommands(stage: Stage): Commands {
  const bench = useBench();
  const session = useSession();
  const navigate = useNavigate();
  const [shown, setShown] = useState<Commands['shown']>(null);
  const list = useMemo(() => commandsOf(bench, (path) => void navigate(path)), [bench, navigate]);
  const held = useRef(0);
  useEffect(() => {
    const byKeys = new Map(list.flatMap((c) => (c.keys ? [[c.keys.toLowerCase(), c] as const] : [])));
    const down = (e: KeyboardEvent): void => {
      if (isTyping(e) || shown) return;
      if (bench.router?.typeInto(e.key)) return e.preventDefault();
      if (e.key === 'Escape') return bench.router?.escape();
      if (e.key === 'Enter' && !isControl(e) && bench.finish()) return e.preventDefault();
      if (e.key === 'Backspace' && bench.stepBack()) return e.preventDefault();
      if (e.key === '/') setShown('list');
      else if (e.key === '?') setShown('keys');
      else if (e.key.toLowerCase() === 't' && !e.ctrlKey && !e.metaKey) return throughDown(bench, held, e);
      else if (e.key === '[' || e.key === ']') resizeBrush(bench, e.key === ']' ? 1.15 : 1 / 1.15);
      else if (e.key.toLowerCase() === 'j' && !e.ctrlKey && !e.metaKey) centre(bench);
      else {
        const command = byKeys.get(keysOf(e));
        if (!command) return;
        command.run();
      }
      e.preventDefault();
    };
    const up = (e: KeyboardEvent): void => {
      if (e.key.toLowerCase() === 't') throughUp(bench, held);
    };
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
    };
  }, [list, shown, bench, session, stage]);
  return {
    list,
    shown,
    openList: () => setShown('list'),
    openKeys: () => setShown('keys'),
    close: () => setShown(null),
  };
}

const TAP_MS = 300;
function throughDown(bench: Bench, held: { current: number }, e: KeyboardEvent): void {
  e.preventDefault();
  if (e.repeat) return;
  held.current = performance.now();
  bench.view.set({ seeThroughHeld: true });
}
/** A tap latches, a longer hold ends with the key. */
function throughUp(bench: Bench, held: { current: number }): void {
  if (!bench.view.now.seeThroughHeld) return;
  const tapped = performance.now() - held.current < TAP_MS;
  bench.view.set({ seeThroughHeld: false, ...(tapped ? { seeThrough: !bench.view.now.seeThrough } : {}) });
}

/** Of the tool in hand where it has a size, of the row that Draw out draws, else of the brush. */
function resizeBrush({ settings, toolName }: Bench, factor: number): void {
  if (toolName === 'draw-out') {
    const { scale } = settings.of(toolName) as { scale: number };
    return settings.change(toolName, 'scale', Math.min(200, Math.max(20, scale + (factor > 1 ? 5 : -5))));
  }
  const name = typeof settings.of(toolName).radius === 'number' ? toolName : 'brush';
  settings.change(name, 'radius', (settings.of(name).radius as number) * factor);
}

function centre(bench: Bench): void {
  const at = bench.router?.pointer;
  if (at && bench.scene?.centreOn(at.x, at.y)) bench.changed();
}

const isTyping = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement &&
  e.target.matches('input:not([type=range]):not([type=radio]):not([type=checkbox]), textarea, [contenteditable]');
/** Enter on a button or link belongs to it. */
const isControl = (e: KeyboardEvent): boolean =>
  e.target instanceof HTMLElement && e.target.matches('button, a, [role=button], input');

function keysOf(e: KeyboardEvent): string {
  const digit = /^Digit(\d)$/.exec(e.code)?.[1];
  const key = digit ?? e.key.toLowerCase();
  const ctrl = e.ctrlKey || e.metaKey;
  return [ctrl && 'ctrl', e.shiftKey && (ctrl || digit) && 'shift', key].filter(Boolean).join(' ');
}
