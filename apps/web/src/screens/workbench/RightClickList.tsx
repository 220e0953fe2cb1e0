import { useRef, type ReactNode } from 'react';
import * as Aria from 'react-aria-components';
import styled from 'styled-components';
import type { Selection } from '@half-loop/core/mesh';
import { OPERATORS, type Operator } from '@half-loop/core/ops';
import { connected, loop, ring, runQuery } from '@half-loop/core/select';
import { LIST_OF, oneElement } from '../../tools';
import type { ElementHit } from '../../viewport';
import { useBench, type Bench } from './Bench';

const Anchor = styled.div`
  position: absolute;
  width: 1px;
  height: 1px;
  pointer-events: none;
`;
const Box = styled(Aria.Popover)`
  background: ${(p) => p.theme.paper};
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 9px;
  padding: 4px;
  min-width: 170px;
  color: ${(p) => p.theme.ink};
`;
const Item = styled(Aria.MenuItem)`
  padding: 5px 10px;
  border-radius: 7px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: ${(p) => p.theme.glazeSoft};
  }
`;

interface Action {
  id: string;
  title: string;
  run: () => void;
}
const LISTS = {
  vertex: ['dissolve', 'split', 'bevel', 'connect', 'weld-picked'],
  edge: ['insert-loops', 'dissolve', 'spin', 'collapse'],
  face: ['extrude', 'inset', 'poke', 'subdivide', 'dissolve'],
} as const;

/** A short list for what lies under the pointer: what is picked when it is part of that, else the element alone. */
function actionsFor(bench: Bench, element: ElementHit): Action[] {
  const { session } = bench;
  const list = LIST_OF[element.kind];
  const isPicked = session.selection[list].includes(element.id);
  const target: Selection = isPicked ? session.selection : oneElement(element);
  const operators = LISTS[element.kind].map((name): Action => {
    const op = OPERATORS.get(name) as Operator;
    return { id: name, title: op.title, run: () => void session.run(op, bench.settings.of(name), target) };
  });
  const select = (title: string, picked: Selection): Action => ({
    id: title,
    title,
    run: () => session.select(picked),
  });
  const picks =
    element.kind === 'edge'
      ? [
          select('Pick its loop', runQuery(session.mesh, loop, target, {})),
          select('Pick its ring', runQuery(session.mesh, ring, target, {})),
        ]
      : [select('Pick all connected', runQuery(session.mesh, connected, target, {}))];
  const remove: Action = { id: 'delete', title: 'Delete', run: () => (session.select(target), bench.deletePicked()) };
  return [...picks, ...operators, remove];
}

export function RightClickList(): ReactNode {
  const bench = useBench();
  const anchor = useRef<HTMLDivElement>(null);
  const { menu } = bench;
  const actions = menu?.element ? actionsFor(bench, menu.element) : [];
  const close = (): void => bench.openMenu(null);
  return (
    <>
      <Anchor ref={anchor} style={{ left: menu?.x ?? 0, top: menu?.y ?? 0 }} />
      <Box
        triggerRef={anchor}
        isOpen={actions.length > 0}
        onOpenChange={(open) => !open && close()}
        placement="bottom start"
      >
        <Aria.Menu
          aria-label="What can be done here"
          autoFocus="first"
          onAction={(id) => {
            close();
            actions.find((a) => a.id === id)?.run();
          }}
          onClose={close}
        >
          {actions.map((a) => (
            <Item key={a.id} id={a.id}>
              {a.title}
            </Item>
          ))}
        </Aria.Menu>
      </Box>
    </>
  );
}
