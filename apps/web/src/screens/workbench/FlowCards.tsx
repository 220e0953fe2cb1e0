import { useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { liveSelection } from '@half-loop/core/mesh';
import { Button, Choice, Heading, NumberBoxField, TextBox, Toggle } from '../../kit';
import { useSession } from '../../session';
import { useBench, useView } from './Bench';
import { Card } from './Card';
import { canHaveGap } from './FormKeeper';
import { ToolCards, type CardName } from './LayCards';
import { otherSurfaces } from './StickCard';
import { PickByCard } from './PickByCard';
import { PiecesCard } from './PiecesCard';
import { RelayCard } from './RelayCard';
import { RecipeCard } from './RecipeCard';
import { RegionsCard } from './RegionsCard';
import { RhythmCard } from './RhythmCard';

const GroupHead = styled.button`
  display: flex;
  width: 100%;
  justify-content: space-between;
  align-items: center;
  min-height: 30px;
  padding: 4px 2px;
  margin-top: 6px;
  border: 0;
  border-bottom: 1px solid ${(p) => p.theme.line};
  background: none;
  color: ${(p) => p.theme.mute};
  font: inherit;
  font-size: 12px;
  font-weight: 700;
  cursor: pointer;
  &:hover {
    color: ${(p) => p.theme.ink};
  }
`;

const GROUPS: readonly { title: string; cards: readonly CardName[] }[] = [
  { title: 'Loops', cards: ['insert-loops', 'slide', 'dissolve', 'fair', 'true', 'relax', 'smooth', 'route-on'] },
  {
    title: 'Join',
    cards: ['weld', 'weld-picked', 'stitch', 'join-halves', 'join-sectors', 'keep-sector', 'connect', 'collapse'],
  },
  {
    title: 'Cut and turn',
    cards: ['cut', 'cut-faces', 'spin', 'split', 'poke', 'pair-triangles', 'mend', 'meant-to-be'],
  },
  {
    title: 'Shape',
    cards: ['extrude', 'inset', 'bevel', 'subdivide', 'recover-coarser', 'even-out', 'crease'],
  },
  { title: 'Walls and holes', cards: ['thicken', 'bore', 'boolean', 'groove', 'holding-borders'] },
  { title: 'Copies and bends', cards: ['copies', 'studs', 'guide', 'draw-along', 'deform', 'lattice'] },
  { title: 'Place and brush', cards: ['place', 'settle', 'bring-back', 'pin', 'brush'] },
];

/** The Flow stop: picking first, then what can be done with it, group by group. */
export function FlowCards(): ReactNode {
  const { toolName } = useBench();
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set(['Loops']));
  // the card of the tool in hand is always to be seen
  const isOpen = ({ title, cards }: (typeof GROUPS)[number]): boolean => open.has(title) || cards.includes(toolName);
  const toggle = (title: string): void => {
    const next = new Set(open);
    if (!next.delete(title)) next.add(title);
    setOpen(next);
  };
  return (
    <>
      <Heading style={{ marginTop: 0 }}>Pick</Heading>
      <ToolCards tools={['select', 'lasso']} />
      <PickByCard />
      <RhythmCard />
      <SavedPicks />
      <PiecesCard />
      <RecipeCard />
      <RegionsCard />
      <RelayCard />
      {GROUPS.map((group) => (
        <div key={group.title}>
          <GroupHead type="button" aria-expanded={isOpen(group)} onClick={() => toggle(group.title)}>
            {group.title}
            <span aria-hidden>{isOpen(group) ? '–' : '+'}</span>
          </GroupHead>
          {isOpen(group) && <ToolCards tools={group.cards} />}
        </div>
      ))}
      <Heading>Hold the form</Heading>
      <HoldCard />
    </>
  );
}

/** What operators keep points on while they move them. */
function HoldCard(): ReactNode {
  const bench = useBench();
  const session = useSession('mesh', 'pieces', 'reset', 'settings');
  const { hold, holdGap, subdivision } = useView();
  const options: [typeof hold, string][] = [
    ...(session.surface ? ([['sculpt', 'the sculpt']] as [typeof hold, string][]) : []),
    ...otherSurfaces(session),
    ['own', 'its own surface'],
    ...(bench.forms.hasCopy ? ([['copy', 'the kept copy']] as [typeof hold, string][]) : []),
    ...(session.settings.guides.length > 0 ? ([['guides', 'the guides']] as [typeof hold, string][]) : []),
    ['free', 'nothing'],
  ];
  const keep = (): void => {
    if (bench.forms.keepCopy()) bench.view.set({ hold: 'copy' });
    else session.say({ kind: 'refused', text: 'There are no faces yet to keep a copy of.' });
  };
  return (
    <Card glyph="sculpt" title="Points are held on" isOpen>
      <Choice label="Surface" value={hold} options={options} onChange={(h) => bench.view.set({ hold: h })} />
      {canHaveGap(hold) && (
        <NumberBoxField
          label="Gap off it"
          unit={session.settings.unit}
          value={holdGap}
          digits={4}
          onChange={(gap) => bench.view.set({ holdGap: gap })}
        />
      )}
      <Button onPress={keep}>Keep a copy of the form as it is</Button>
      <Choice
        label="Show subdivided"
        value={String(subdivision)}
        options={[
          ['0', 'as it is'],
          ['1', '1'],
          ['2', '2'],
          ['3', '3'],
        ]}
        onChange={(n) => bench.view.set({ subdivision: Number(n) as 0 | 1 | 2 | 3 })}
      />
    </Card>
  );
}

/** Selections kept by name, and the lock. */
function SavedPicks(): ReactNode {
  const bench = useBench();
  const session = useSession('settings', 'selection');
  const { selectionLocked } = useView();
  const [name, setName] = useState('');
  const [isOpen, setOpen] = useState(false);
  const { picks } = session.settings;
  const take = (pick: (typeof picks)[number]): void => {
    session.usePiece(pick.piece ?? session.document.pieces[0].id);
    session.select(liveSelection(session.mesh, pick));
  };
  const { vertices, edges, faces } = session.selection;
  const some = vertices.length + edges.length + faces.length > 0;
  const save = (): void => {
    const kept = {
      name: name.trim() || `Pick ${picks.length + 1}`,
      piece: session.piece.id,
      vertices: [...vertices],
      edges: [...edges],
      faces: [...faces],
    };
    session.changeSettings(`Selection “${kept.name}” kept`, {
      picks: [...picks.filter((p) => p.name !== kept.name), kept],
    });
    setName('');
  };
  return (
    <Card
      glyph="kept"
      title="Kept selections"
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Selections by name, and a lock on what is picked."
    >
      <Toggle
        label="Locked: presses do not change it"
        value={selectionLocked}
        onChange={(on) => bench.view.set({ selectionLocked: on })}
      />
      <TextBox label="Keep it as" value={name} onChange={setName} />
      <Button isDisabled={!some} onPress={save}>
        Keep
      </Button>
      {picks.map((p) => (
        <div key={p.name} style={{ display: 'flex', gap: 4, marginTop: 4 }}>
          <Button onPress={() => take(p)}>{p.name}</Button>
          <Button
            aria-label={`Forget ${p.name}`}
            onPress={() =>
              session.changeSettings(`Selection “${p.name}” forgotten`, {
                picks: picks.filter((q) => q.name !== p.name),
              })
            }
          >
            ×
          </Button>
        </div>
      ))}
    </Card>
  );
}
