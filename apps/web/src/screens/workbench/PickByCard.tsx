import { useState, type ReactNode } from 'react';
import { directionFromPlaced } from '@half-loop/core/math';
import { runQuery, SELECTION_QUERIES, type SelectionQuery } from '@half-loop/core/select';
import { Button, Choice, Note, NumberBoxField, QuietButton, Range, Toggle } from '../../kit';
import { useSession } from '../../session';
import { mergedSelection } from '../../tools';
import { count } from '../format';
import { useBench, type Bench } from './Bench';
import { Card } from './Card';

/** What is asked with one press, from what is picked. */
const AT_ONCE = ['loop', 'ring', 'strip', 'border', 'connected', 'between', 'region', 'region-island', 'grow', 'shrink', 'invert', 'all', 'none', 'to-vertices', 'open', 'hard'] as const; // prettier-ignore
const MEASURED = [
  ['by-angle', 'edges that bend'],
  ['by-valence', 'points by their edges'],
  ['by-sides', 'faces by their sides'],
  ['by-facing', 'faces that look one way'],
  ['same', 'the same as this'],
  ['to-edges', 'their edges'],
  ['to-faces', 'their faces'],
] as const;
type Measured = (typeof MEASURED)[number][0];

interface Asked {
  degrees: number;
  /** 0: all poles */
  valence: number;
  /** 5: n-gons */
  sides: number;
  facing: 'front' | 'back' | 'left' | 'right' | 'up' | 'down';
  within: number;
  wholly: boolean;
}
const START: Asked = { degrees: 30, valence: 0, sides: 3, facing: 'front', within: 0.1, wholly: true };
const DIRECTIONS = { front: [0, 0, 1], back: [0, 0, -1], left: [-1, 0, 0], right: [1, 0, 0], up: [0, 1, 0], down: [0, -1, 0] } as const; // prettier-ignore

/** Every selection query: those that need no number as buttons, the others with theirs and what they would take. */
export function PickByCard(): ReactNode {
  const bench = useBench();
  const session = useSession('selection', 'mesh', 'settings');
  const [isOpen, setOpen] = useState(false);
  const [what, setWhat] = useState<Measured>('by-angle');
  const [asked, setAsked] = useState(START);
  const found = isOpen ? runQuery(session.mesh, queryOf(what), session.selection, paramsOf(bench, what, asked), session.plane) : null; // prettier-ignore
  const n = found ? found.vertices.length + found.edges.length + found.faces.length : 0;
  return (
    <Card
      glyph="pick-by"
      title="Pick by"
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="From what is picked, or by what elements are like."
    >
      <div>
        {AT_ONCE.map((name) => (
          <QuietButton key={name} onPress={() => session.select(runQuery(session.mesh, queryOf(name), session.selection, {}, session.plane))}>
            {queryOf(name).title}
          </QuietButton>
        ))}
      </div>
      <Choice label="Or" value={what} options={MEASURED} onChange={setWhat} />
      <Fields what={what} asked={asked} set={(change) => setAsked({ ...asked, ...change })} />
      <Note role="status">{n === 0 ? 'Nothing here is like that.' : `${count(n)} would be picked`}</Note>
      <Button isDisabled={n === 0} onPress={() => found && session.select(found)}>
        Pick them
      </Button>
      <Button isDisabled={n === 0} onPress={() => found && session.select(mergedSelection(session.selection, found))}>
        Add them
      </Button>
    </Card>
  ); // prettier-ignore
}

function Fields({
  what,
  asked,
  set,
}: {
  what: Measured;
  asked: Asked;
  set: (change: Partial<Asked>) => void;
}): ReactNode {
  const degrees = <Range label={what === 'by-angle' ? 'By at least' : 'Within'} value={asked.degrees} min={0} max={180} step={1} show={(v) => `${v}°`} onChange={(v) => set({ degrees: v })} />; // prettier-ignore
  switch (what) {
    case 'by-angle':
      return degrees;
    case 'by-facing':
      return (
        <>
          <Choice
            label="Towards"
            value={asked.facing}
            options={(['front', 'back', 'left', 'right', 'up', 'down'] as const).map((side) => [side, side] as const)}
            onChange={(facing) => set({ facing })}
          />
          {degrees}
        </>
      );
    case 'by-valence':
      return (
        <NumberBoxField label="Edges (0: all poles)" value={asked.valence} min={0} max={64} digits={0} onChange={(v) => set({ valence: v })} />
      ); // prettier-ignore
    case 'by-sides':
      return (
        <Choice
          label="Sides"
          value={String(asked.sides)}
          options={[['3', 'triangles'], ['4', 'quads'], ['5', 'n-gons']]}
          onChange={(v) => set({ sides: Number(v) })}
        />
      ); // prettier-ignore
    case 'same':
      return <Range label="To within" value={asked.within} min={0} max={1} step={0.01} show={(v) => `${Math.round(v * 100)} %`} onChange={(v) => set({ within: v })} />; // prettier-ignore
    default:
      return (
        <Toggle label="Only those wholly among them" value={asked.wholly} onChange={(wholly) => set({ wholly })} />
      );
  }
}

const queryOf = (name: string): SelectionQuery => SELECTION_QUERIES.get(name) as SelectionQuery;

/** A query's parameters from what is set; directions as the asset stands in the view. */
function paramsOf(bench: Bench, what: Measured, asked: Asked): object {
  switch (what) {
    case 'by-angle':
      return { degrees: asked.degrees };
    case 'by-valence':
      return { valence: asked.valence === 0 ? 'poles' : asked.valence };
    case 'by-sides':
      return { sides: asked.sides === 5 ? 'more' : asked.sides };
    case 'by-facing': {
      const [x, y, z] = DIRECTIONS[asked.facing];
      const placed = bench.scene?.placed;
      return { degrees: asked.degrees, direction: placed ? [...directionFromPlaced([x, y, z], placed)] : [x, y, z] };
    }
    case 'same':
      return { within: asked.within };
    default:
      return { wholly: asked.wholly };
  }
}
