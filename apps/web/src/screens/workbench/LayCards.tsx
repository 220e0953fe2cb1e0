import { useState, type ReactNode } from 'react';
import { OPERATORS, pairsWithin, weld, type Operator } from '@half-loop/core/ops';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { Button, Choice, Note, Range, Toggle } from '../../kit';
import { useSession } from '../../session';
import { TOOLS, type ToolName } from '../../tools';
import { lengthText } from '../format';
import { useBench, useView } from './Bench';
import { Card } from './Card';
import { DensityBody } from './DensityBody';
import { RegionBody } from './RegionBody';
import { ThreadBody } from './ThreadBody';
import { BrushBody, FillBody, GuideBody, LassoBody, PlaceBody, RouteBody, RowBody } from './toolBodies';
import { RowShapeBody } from './RowShapeBody';
import { LatestNote, OperatorCard } from './OperatorCard';
import { OperatorFields } from './OperatorFields';
import { makeMirrorReal } from './useCommands';

/** A pointer tool, a card of its own, or the name of an operator. */
export type CardName = ToolName | 'weld' | 'make-real' | (string & {});

/** Cards of the given tools; of those without a pointer, one can be open beside the tool in hand. */
export function ToolCards({ tools }: { tools: readonly CardName[] }): ReactNode {
  const bench = useBench();
  const [openCard, setOpen] = useState<CardName | null>(null);
  return tools.map((name) => {
    const card = TOOLS.find((t) => t.name === name);
    if (card)
      return (
        <Card
          key={name}
          glyph={name}
          title={card.title}
          keys={card.key}
          isOpen={bench.toolName === name}
          onOpen={() => bench.pickTool(card.name)}
          hint={bench.hint}
        >
          <ToolBody name={card.name} />
        </Card>
      );
    const open = (): void => setOpen(name);
    if (name !== 'weld' && name !== 'make-real')
      return <OperatorCard key={name} name={name} isOpen={openCard === name} onOpen={open} />;
    return name === 'weld' ? (
      <WeldCard key={name} isOpen={openCard === name} onOpen={open} />
    ) : (
      <MakeRealCard key={name} isOpen={openCard === name} onOpen={open} />
    );
  });
}

/** What a pointer tool asks for on its card. */
function ToolBody({ name }: { name: ToolName }): ReactNode {
  const bench = useBench();
  const runCard = (of: string): Promise<void> => bench.runCard(OPERATORS.get(of) as Operator);
  switch (name) {
    case 'select':
      return <PickKind />;
    case 'lasso':
      return <LassoBody />;
    case 'place':
      return <PlaceBody />;
    case 'brush':
      return <BrushBody />;
    case 'route-on':
      return <RouteBody />;
    case 'row':
      return <RowBody />;
    case 'thread':
      return <ThreadBody />;
    case 'fill':
      return <FillBody />;
    case 'density':
      return <DensityBody />;
    case 'region':
      return <RegionBody />;
    case 'guide':
      return <GuideBody />;
    case 'ring-opening':
      return (
        <>
          <OperatorFields name={name} />
          <LatestNote name={name} />
        </>
      );
    case 'deform':
    case 'lattice':
      return (
        <>
          <OperatorFields name={name} />
          {name === 'deform' && <Button onPress={() => void runCard(name)}>Bend, twist, taper</Button>}
          <LatestNote name={name} />
        </>
      );
    case 'insert-loops':
    case 'slide':
    case 'cut':
      return (
        <>
          <OperatorFields name={name} without={name === 'slide' ? ['by'] : ['at']} />
          <LatestNote name={name} />
        </>
      );
    case 'draw-out':
      return (
        <>
          <RowShapeBody />
          <WeldDistance />
        </>
      );
    default:
      return <WeldDistance />;
  }
}

function PickKind(): ReactNode {
  const { view } = useBench();
  const { kind } = useView();
  return (
    <Choice
      label="What can be picked"
      value={kind}
      onChange={(k) => view.set({ kind: k })}
      options={[
        ['any', 'any'],
        ['vertices', 'vertices'],
        ['edges', 'edges'],
        ['faces', 'faces'],
      ]}
    />
  );
}

/** The weld distance, in units and as it looks on the screen now. */
function WeldDistance(): ReactNode {
  const bench = useBench();
  const session = useSession('settings');
  useView();
  const { unit } = session.settings;
  const most = session.surface ? session.surface.diagonal * 0.04 : 1;
  const pixels = bench.scene ? bench.weldWithin / bench.scene.camera.pixelSize() : 0;
  return (
    <>
      <Range
        label="Weld within"
        value={bench.weldWithin}
        min={0}
        max={most}
        step={most / 80}
        show={(v) => lengthText(v, unit)}
        onChange={(v) => bench.view.set({ weldWithin: v })}
      />
      <Circle pixels={pixels} />
      <Toggle
        label="See through"
        keys="T"
        value={bench.view.now.seeThrough}
        onChange={(on) => bench.view.set({ seeThrough: on })}
      />
    </>
  );
}

function Circle({ pixels }: { pixels: number }): ReactNode {
  const r = Math.min(40, Math.max(0.5, pixels));
  return (
    <Note style={{ display: 'flex', alignItems: 'center', gap: 8 }}>
      <svg width={2 * r + 4} height={2 * r + 4} aria-hidden>
        <circle cx={r + 2} cy={r + 2} r={r} fill="none" stroke="currentColor" strokeWidth="1.5" />
        <circle cx={r + 2} cy={r + 2} r="1.5" fill="currentColor" />
      </svg>
      <span>{pixels.toFixed(pixels < 10 ? 1 : 0)} px on this view</span>
    </Note>
  );
}

function WeldCard({ isOpen, onOpen }: { isOpen: boolean; onOpen: () => void }): ReactNode {
  const bench = useBench();
  const session = useSession('mesh', 'selection', 'reset', 'settings');
  useView();
  const picked = session.selection.vertices.length > 1 ? session.selection.vertices : undefined;
  const pairs = isOpen ? pairsWithin(session.mesh, bench.weldWithin, picked) : [];
  return (
    <Card
      glyph="weld"
      title="Weld"
      isOpen={isOpen}
      onOpen={onOpen}
      hint={`Joins ${picked ? 'picked ' : ''}points that lie closer than the distance.`}
    >
      <WeldDistance />
      <Button isDisabled={pairs.length === 0} onPress={() => session.run(weld, { pairs })}>
        {pairs.length === 0 ? 'No pairs to weld' : `Weld ${pairs.length} ${pairs.length === 1 ? 'pair' : 'pairs'}`}
      </Button>
      {pairs.length > 0 && (
        <Button onPress={() => session.select({ ...EMPTY_SELECTION, vertices: pairs.flat() })}>Show them</Button>
      )}
    </Card>
  );
}

function MakeRealCard({ isOpen, onOpen }: { isOpen: boolean; onOpen: () => void }): ReactNode {
  const bench = useBench();
  const session = useSession('settings', 'mesh');
  return (
    <Card
      glyph="make-real"
      title="Make the mirror real"
      isOpen={isOpen}
      onOpen={onOpen}
      hint="The mirrored half becomes faces of its own, and symmetry goes off. Files that you ship have it made real anyway."
    >
      <Button isDisabled={!session.plane || session.mesh.faceCount === 0} onPress={() => makeMirrorReal(bench)}>
        Make it real
      </Button>
    </Card>
  );
}
