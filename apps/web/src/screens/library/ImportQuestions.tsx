import type { ReactNode } from 'react';
import { UNIT_NAMES, type ProjectCard, type Unit } from '@half-loop/contract';
import { AXES, frontBeside, SIGNED_AXES, type Axis, type SignedAxis } from '@half-loop/core/math';
import { Choice, TextBox, Toggle } from '../../kit';

export const NEW_PROJECT = 'new';

/** What a file cannot say of itself. */
export interface Answers {
  name: string;
  projectId: string;
  newProject: string;
  unit: Unit;
  up: SignedAxis;
  front: SignedAxis;
  onFloor: boolean;
  symmetry: 'none' | Axis;
}

interface Props {
  answers: Answers;
  onChange: (change: Partial<Answers>) => void;
  projects: ProjectCard[];
  /** the axis that measuring proposes */
  measured: Axis | null;
}

export function ImportQuestions({ answers, onChange, projects, measured }: Props): ReactNode {
  const { name, projectId, newProject, unit, up, front, onFloor, symmetry } = answers;
  return (
    <>
      <TextBox label="Name of the asset" value={name} onChange={(v) => onChange({ name: v })} />
      <Choice
        label="Project"
        value={projectId}
        onChange={(v) => onChange({ projectId: v })}
        options={[...projects.map((p) => [p.id, p.name] as const), [NEW_PROJECT, 'A new one']]}
      />
      {projectId === NEW_PROJECT && (
        <TextBox label="Name of the new project" value={newProject} onChange={(v) => onChange({ newProject: v })} />
      )}
      <Choice
        label="One unit of the file is"
        value={unit}
        onChange={(v) => onChange({ unit: v })}
        options={UNIT_NAMES.map((u) => [u, `1 ${u}`] as const)}
      />
      <Choice
        label="Up in the file"
        value={up}
        onChange={(v) => onChange({ up: v, front: frontBeside(v, front) })}
        options={SIGNED_AXES.map((a) => [a, a] as const)}
      />
      <Choice
        label="Front in the file"
        value={front}
        onChange={(v) => onChange({ front: v })}
        options={SIGNED_AXES.filter((a) => a[1] !== up[1]).map((a) => [a, a] as const)}
      />
      <Toggle label="Stand it on the floor" value={onFloor} onChange={(v) => onChange({ onFloor: v })} />
      <Choice
        label="Symmetry across"
        value={symmetry}
        onChange={(v) => onChange({ symmetry: v })}
        options={[['none', 'nothing'], ...AXES.map((a) => [a, `${a}${a === measured ? ' (measured)' : ''}`] as const)]}
      />
    </>
  );
}
