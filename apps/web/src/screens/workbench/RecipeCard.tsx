import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { booleanParts, RECIPE_STEPS, type Operator } from '@half-loop/core/ops';
import { Button, Choice, Note, Toggle } from '../../kit';
import { addStep, changeStep, makeRecipeReal, moveStep, removeStep, useSession, type Session } from '../../session';
import { useBench, useView } from './Bench';
import { Card } from './Card';
import { FieldList } from './OperatorFields';

const Step = styled.li`
  list-style: none;
  margin: 6px 0;
  padding: 6px 8px;
  border: 1px solid ${(p) => p.theme.line};
  border-radius: 7px;
  .row {
    display: flex;
    align-items: center;
    gap: 4px;
  }
  .row > :first-child {
    flex: 1;
  }
  .row > :not(:first-child) {
    padding: 4px 7px;
  }
`;
const Told = styled.p<{ $bad: boolean }>`
  margin: 4px 0;
  font-size: 12px;
  color: ${(p) => (p.$bad ? p.theme.kiln : p.theme.mute)};
  span {
    display: block;
  }
`;

/** The recipe of the piece in hand: steps that shape it after it is edited, in order, each to be set and switched at any time. */
export function RecipeCard(): ReactNode {
  const { view } = useBench();
  const { showMade } = useView();
  const session = useSession('reset', 'pieces', 'recipe', 'history');
  const [isOpen, setOpen] = useState(false);
  const { recipe } = session.piece;
  return (
    <Card
      glyph="recipe"
      title={recipe.length === 0 ? 'Recipe' : `Recipe: ${recipe.length}`}
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Steps that shape the piece after it is edited, in order. They stay open until they are made real; what they make is counted and shipped."
    >
      <ol style={{ margin: 0, padding: 0 }}>
        {recipe.map((_, i) => (
          <StepRow key={i} session={session} at={i} />
        ))}
      </ol>
      <AddStep session={session} />
      {recipe.length > 0 && (
        <>
          <Toggle label="Show what it makes" value={showMade} onChange={(on) => view.set({ showMade: on })} />
          <Button onPress={() => void makeRecipeReal(session, recipe.length)}>Make all of it real</Button>
        </>
      )}
    </Card>
  );
}

function StepRow({ session, at }: { session: Session; at: number }): ReactNode {
  const [isOpen, setOpen] = useState(false);
  const { piece, document } = session;
  const step = piece.recipe[at];
  const op = RECIPE_STEPS.get(step.op) as Operator | undefined;
  const told = session.recipes.made(piece.id)?.told[at] ?? null;
  const title = op?.title ?? step.op;
  const others = document.pieces.filter((p) => p.id !== piece.id && !p.guide);
  return (
    <Step>
      <Toggle label={title} value={step.on} onChange={(on) => changeStep(session, at, { on })} />
      {step.on && told && (
        <Told $bad={told.refused} role={told.refused ? 'alert' : undefined}>
          {told.sentence.split('; ').map((part) => (
            <span key={part}>{part}</span>
          ))}
        </Told>
      )}
      <div className="row">
        <Button aria-expanded={isOpen} aria-label={`Settings of ${title}`} onPress={() => setOpen(!isOpen)}>
          {isOpen ? 'Close' : 'Settings'}
        </Button>
        <Button aria-label={`${title} earlier`} isDisabled={at === 0} onPress={() => moveStep(session, at, at - 1)}>
          <ArrowUp size={14} aria-hidden />
        </Button>
        <Button
          aria-label={`${title} later`}
          isDisabled={at === piece.recipe.length - 1}
          onPress={() => moveStep(session, at, at + 1)}
        >
          <ArrowDown size={14} aria-hidden />
        </Button>
        <Button aria-label={`Take ${title} out`} onPress={() => removeStep(session, at)}>
          <X size={14} aria-hidden />
        </Button>
      </div>
      {isOpen && op && (
        <>
          {step.op === booleanParts.name && (
            <Choice
              label="Cutting shape"
              value={step.piece ?? ''}
              options={[['', 'none'], ...others.map((p): [string, string] => [p.id, p.name])]}
              onChange={(id) => changeStep(session, at, { piece: id === '' ? undefined : id })}
            />
          )}
          <FieldList
            op={op}
            values={step.params}
            reported={told?.counts}
            onChange={(key, value) => changeStep(session, at, { params: { ...step.params, [key]: value } })}
          />
          <Button onPress={() => void makeRecipeReal(session, at + 1)}>Make it real up to here</Button>
        </>
      )}
    </Step>
  );
}

const STEPS = [...RECIPE_STEPS.values()].map((op): [string, string] => [op.name, op.title]);

/** A further step, set as its own card is. A Boolean takes another piece as its cutting shape, which is hidden. */
function AddStep({ session }: { session: Session }): ReactNode {
  const bench = useBench();
  const [op, setOp] = useState(STEPS[0][0]);
  const [shape, setShape] = useState('');
  const others = session.document.pieces.filter((p) => p.id !== session.piece.id && !p.guide);
  const cuts = op === booleanParts.name;
  const piece = others.find((p) => p.id === shape)?.id ?? others[0]?.id;
  return (
    <>
      <Choice label="Step to add" value={op} options={STEPS} onChange={setOp} />
      {cuts && others.length > 0 && (
        <Choice
          label="Cutting shape"
          value={piece}
          options={others.map((p): [string, string] => [p.id, p.name])}
          onChange={setShape}
        />
      )}
      {cuts && others.length === 0 && <Note>Make the cutting shape a piece of its own first.</Note>}
      <Button
        isDisabled={cuts && !piece}
        onPress={() => addStep(session, op, bench.settings.of(op), cuts ? piece : undefined)}
      >
        Add it to the recipe
      </Button>
    </>
  );
}
