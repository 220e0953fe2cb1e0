import type { ReactNode } from 'react';
import type { Stage } from '@half-loop/contract';
import { Heading, Toggle } from '../../kit';
import { markDone, useSession } from '../../session';
import { STOPS } from './Bench';
import { FlowCards } from './FlowCards';
import { BudgetCard, LookCard, SculptCard } from './GatherCards';
import { NewerSculptCard } from './NewerSculptCard';
import { LayAllCard } from './LayAllCard';
import { ToolCards } from './LayCards';
import { PiecesCard } from './PiecesCard';
import { RecipeCard } from './RecipeCard';
import { RelayCard } from './RelayCard';
import { RegionsCard } from './RegionsCard';
import { SectorsCard } from './SectorsCard';
import { ShapeCard } from './ShapeCard';
import { StickCard } from './StickCard';
import { FileCard, VersionCardPanel } from './ShipCards';

/** What can be done now: the cards of the stop. Every tool stays in the command list. */
export function LeftColumn({ stage }: { stage: Stage }): ReactNode {
  const session = useSession('settings');
  const title = STOPS.find((s) => s.stage === stage)?.title ?? '';
  return (
    <>
      {stage === 'gather' && (
        <>
          <Heading style={{ marginTop: 0 }}>The sculpt</Heading>
          <SculptCard />
          <SectorsCard />
          <NewerSculptCard />
          <LookCard />
          <Heading>What it is for</Heading>
          <BudgetCard />
        </>
      )}
      {stage === 'lay' && (
        <>
          <Heading style={{ marginTop: 0 }}>{session.surface ? 'Draw on the sculpt' : 'Draw'}</Heading>
          <ToolCards
            tools={[
              'quad',
              'row',
              'ring-opening',
              'thread',
              'fill',
              'draw-out',
              'bridge',
              'cap',
              'select',
              'guide',
              'density',
              'region',
            ]}
          />
          <LayAllCard />
          <RelayCard />
          <Heading>Start from a shape</Heading>
          <ShapeCard />
          <PiecesCard />
          <RecipeCard />
          <RegionsCard />
          <Heading>Join</Heading>
          <ToolCards tools={['weld', 'to-midline', 'make-real', 'mirror-over']} />
          <Heading>Stick to</Heading>
          <StickCard />
          <ToolCards tools={['bring-back', 'pin']} />
        </>
      )}
      {stage === 'flow' && <FlowCards />}
      {stage === 'trim' && (
        <>
          <Heading style={{ marginTop: 0 }}>Take out</Heading>
          <ToolCards tools={['select', 'dissolve', 'collapse', 'weld']} />
          <BudgetCard />
        </>
      )}
      {stage === 'prove' && (
        <>
          <Heading style={{ marginTop: 0 }}>Look closer</Heading>
          <ToolCards tools={['select']} />
          <LookCard />
        </>
      )}
      {stage === 'ship' && (
        <>
          <Heading style={{ marginTop: 0 }}>Keep</Heading>
          <VersionCardPanel />
          <Heading>Hand over</Heading>
          <FileCard />
        </>
      )}
      <Heading>This stop</Heading>
      <Toggle
        label={`${title} is done`}
        value={session.document.done.includes(stage)}
        onChange={(on) => markDone(session, stage, on)}
      />
    </>
  );
}
