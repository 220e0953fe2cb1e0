import { useState, type ReactNode } from 'react';
import { AXES, seededRng, type Axis } from '@half-loop/core/math';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { joinSectors, keepSector } from '@half-loop/core/ops';
import { measureTurns } from '@half-loop/core/surface';
import { Button, Choice, Note, NumberBoxField } from '../../kit';
import { addStep, changeStep, removeStep, useSession } from '../../session';
import { Card } from './Card';

/** Points of the sculpt that are turned to measure it. */
const SAMPLES = 60;

/** Symmetry round an axis: one sector is laid, the others follow it as a step of the piece's recipe. */
export function SectorsCard(): ReactNode {
  const session = useSession('pieces', 'settings', 'reset', 'recipe', 'mesh');
  const { piece, surface, plane } = session;
  const at = piece.recipe.findIndex(({ op }) => op === joinSectors.name);
  const [isOpen, setOpen] = useState(at >= 0);
  const [asked, setAsked] = useState<{ axis: Axis; count: number }>({ axis: session.settings.up[1] as Axis, count: 6 });
  const [said, setSaid] = useState<string | null>(null);
  const step = at >= 0 ? piece.recipe[at] : null;
  const now = step ? { ...asked, ...(step.params as Partial<typeof asked>) } : asked;
  const told = at >= 0 ? session.recipes.made(piece.id)?.told[at] : null;
  const change = (to: Partial<typeof asked>): void => {
    setAsked({ ...now, ...to });
    if (step) changeStep(session, at, { params: { ...step.params, ...to } });
  };
  const measure = (): void => {
    const found = surface && measureTurns(surface, seededRng(1), SAMPLES);
    setSaid(
      found
        ? `It falls into ${found.count} sectors round ${found.axis}, to ${(100 * found.error).toFixed(2)} % of its size.`
        : 'No turn about an axis through zero brings the sculpt onto itself.',
    );
    if (found) change({ axis: found.axis, count: found.count });
  };
  const lay = (): void => addStep(session, joinSectors.name, { ...asked });
  const keep = (): void => {
    if (session.run(keepSector, asked, EMPTY_SELECTION)) lay();
  };
  return (
    <Card
      glyph={joinSectors.name}
      title="Sectors round an axis"
      aside={step?.on ? `${now.count} round ${now.axis}` : ''}
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Lay one sector; the others are it, turned, and are joined to it at the seam. Points near the seam stick to it."
    >
      <NumberBoxField
        label="How many sectors"
        value={now.count}
        min={2}
        max={128}
        step={1}
        digits={0}
        onChange={(count) => change({ count })}
      />
      <Choice
        label="Round"
        value={now.axis}
        options={AXES.map((a) => [a, a] as const)}
        onChange={(axis) => change({ axis })}
      />
      {surface && <Button onPress={measure}>Measure the turns</Button>}
      {said !== null && <Note role="status">{said}</Note>}
      {plane && <Note>Symmetry across {plane.axis} is on: its other half is made first, then turned.</Note>}
      {step ? (
        <Button onPress={() => removeStep(session, at)}>Lay all sectors by hand</Button>
      ) : (
        <div style={{ display: 'grid', gap: 8, justifyItems: 'start' }}>
          <Button onPress={lay}>Lay one of {now.count} sectors</Button>
          {session.mesh.faceCount > 0 && <Button onPress={keep}>Copy one sector over the others</Button>}
        </div>
      )}
      {told && <Note role={told.refused ? 'alert' : 'status'}>{told.sentence}</Note>}
    </Card>
  );
}
