import type { ReactNode } from 'react';
import { TopologyError } from '@half-loop/core/errors';
import { copies, evenOut, OPERATORS, pivotOf, settlePiece, type Operator } from '@half-loop/core/ops';
import { Button, Note } from '../../kit';
import { addStep, isLive, useSession } from '../../session';
import { useBench } from './Bench';
import { Card } from './Card';
import { EvenOutPatch } from './EvenOutPatch';
import { OperatorFields } from './OperatorFields';

/** What each card says it does, and on what. */
const HINTS: Readonly<Record<string, string>> = {
  dissolve: 'Takes picked edges or points away; the faces beside merge.',
  fair: 'Bends a picked loop so that it follows the curvature of its neighbours.',
  true: 'Brings a picked loop or points to a true shape.',
  relax: 'Evens points out on the surface. Works on what is picked, or on everything.',
  smooth: 'Takes bumps out. Works on what is picked, or on everything.',
  'weld-picked': 'Joins all that is picked in one point.',
  stitch: 'Joins two picked borders point by point.',
  connect: 'Joins picked points by edges, or the middles of picked edges.',
  collapse: 'Draws picked edges or faces together.',
  'cut-faces': 'The same cut in every picked face.',
  spin: 'Turns picked edges inside their two faces: steers poles.',
  split: 'Puts points on picked edges, or splits points in two.',
  poke: 'Fans picked faces out from their middle.',
  'pair-triangles': 'Makes quads of triangles, picked ones or all.',
  mend: 'Makes quads of the faces that edits left lit, where a plain repair fits.',
  'meant-to-be': 'Leaves picked triangles and n-gons, or all lit ones, as they are.',
  extrude: 'Draws picked faces or border edges out into walls.',
  inset: 'Puts a rim of even width inside picked faces.',
  bevel: 'Widens picked edges or points into rounded strips.',
  subdivide: 'Divides faces for real, picked ones or all.',
  crease: 'Keeps edges sharp when the mesh is subdivided.',
  'recover-coarser': 'Takes one level of subdivision back, of picked parts or of all.',
  thicken: 'Gives sheets a wall of even thickness, and says how thick it can be before it crosses itself.',
  bore: 'A round hole through a picked patch, bordered by quads; pick the patch opposite too, or let it be found.',
  groove: 'Sinks a strip along picked loops, or raises it.',
  'holding-borders': 'Loops beside a region’s border that hold it when the mesh is subdivided.',
  copies: 'Copies of the picked part in a line, in a ring, or mirrored.',
  studs: 'Sets copies of a small part along edges: pick a face of the part and, with Shift, the edges.',
  boolean: 'Pick a face of the cutting shape: it is cut away from, or joined to, the other closed parts.',
  deform: 'Bends, twists or tapers what is picked, or everything, or lays it along a guide.',
  'bring-back': 'Puts points back onto what they are held on, or lifts them off it.',
  pin: 'Locked points stay where they are, whatever moves others. Released ones are left alone by evening out, bringing back, measuring and what needs a look.',
  'to-midline': 'Open points beside the midline are brought exactly onto it, so that no gap is left.',
  'mirror-over': 'One half of a whole piece replaces the other, mirrored.',
  cap: 'Closes the opening at a picked edge: with quads, one face, or a fan.',
  bridge: 'Rows of quads between two picked borders, or two runs of border edges.',
  'draw-along': 'Draws picked border edges out along a guide, or lays a strip of quads on it.',
  'join-halves': 'Checks the border ring at a plane, joins both halves there, and proves that nothing is left open.',
  'join-sectors':
    'One sector becomes a whole: turned copies all round an axis, joined at the seam; what does not meet is told.',
  'keep-sector': 'Of a whole piece one sector stays; joined again, it is copied over all others.',
  settle: 'Makes position, turn and size part of the points, about a pivot that you choose.',
  lattice: 'Shapes what is picked, or everything, by control points round it.',
  'even-out': 'Makes a part anew of even faces; sharp edges and region borders stay.',
};

/** The card of an operator without a gesture of its own: its settings, a button, and what came of it. */
export function OperatorCard({
  name,
  isOpen,
  onOpen,
}: {
  name: string;
  isOpen: boolean;
  onOpen: () => void;
}): ReactNode {
  const bench = useBench();
  useSession('selection', 'history');
  const op = OPERATORS.get(name) as Operator;
  return (
    <Card glyph={name} title={op.title} isOpen={isOpen} onOpen={onOpen} hint={HINTS[name]}>
      {isOpen && (
        <>
          <OperatorFields name={name} />
          <Button isDisabled={bench.slow.under?.op === op} onPress={() => void bench.runCard(op)}>
            {op.title}
          </Button>
          {name === settlePiece.name && <TryPivot />}
          {name === evenOut.name && <EvenOutPatch />}
          <LatestNote name={name} />
        </>
      )}
    </Card>
  );
}

/** Copies turned about the pivot, in the recipe, so that it is seen whether the pivot is right; they are taken out there. */
function TryPivot(): ReactNode {
  const bench = useBench();
  const { session, settings } = bench;
  const tryIt = (): void => {
    try {
      const asked = settings.of(settlePiece.name) as Parameters<typeof pivotOf>[2];
      const about = pivotOf(session.mesh, session.selection, asked);
      addStep(session, copies.name, { arranged: 'ring', axis: asked.up[1], count: 6, about: [...about] });
    } catch (error) {
      if (!(error instanceof TopologyError)) throw error;
      session.say({ kind: 'refused', text: error.message });
    }
  };
  return <Button onPress={tryIt}>Try the pivot with turned copies</Button>;
}

/** What the latest step did, when it was this operator's: its settings still change it. */
export function LatestNote({ name }: { name: string }): ReactNode {
  const bench = useBench();
  const session = useSession('history');
  if (!bench.settings.isLive(name) || !session.latest) return null;
  const { latest } = session;
  const stays = isLive(latest, session.mesh, { ...latest.params, ...bench.settings.of(name) });
  const then = stays
    ? 'The settings above still change it.'
    : 'With other settings a patch shows what comes, and the whole follows.';
  return (
    <Note role="status">
      {latest.report.sentence}. {then}
    </Note>
  );
}
