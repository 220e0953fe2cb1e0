import { STAGES, type AssetDocument, type Piece, type Summary } from '@half-loop/contract';
import { makeUp, type MakeUp } from '@half-loop/core/inspect';
import type { MirrorPlane } from '@half-loop/core/math';
import type { Shipped } from './RecipeWatch';

export function planeOf({ settings }: AssetDocument): MirrorPlane | null {
  const { on, axis, offset } = settings.symmetry;
  return on ? { axis, offset } : null;
}

/** The pieces that count, as they are edited, without their recipes. */
const asEdited = (document: AssetDocument): Shipped[] =>
  document.pieces.filter((p) => p.visible && !p.guide).map(({ mesh }) => ({ mesh, plane: planeOf(document) }));

/** The make-up of several meshes together. */
export function makeUpOf(meshes: readonly Shipped[]): MakeUp {
  const all = meshes.map(({ mesh, plane }) => makeUp(mesh, plane));
  const total = all[0] ?? {
    faces: 0,
    quads: 0,
    triangles: 0,
    ngons: 0,
    vertices: 0,
    edges: 0,
    poles: { two: 0, three: 0, five: 0, sixPlus: 0 },
    openEdges: 0,
    looseEdges: 0,
    released: { openEdges: 0, looseEdges: 0, ngons: 0, sixPlus: 0, two: 0 },
  };
  return all.slice(1).reduce(addUp, total);
}

function addUp(a: MakeUp, b: MakeUp): MakeUp {
  const sum = { ...a, poles: { ...a.poles }, released: { ...a.released } };
  for (const key of ['faces', 'quads', 'triangles', 'ngons', 'vertices', 'edges', 'openEdges', 'looseEdges'] as const)
    sum[key] += b[key];
  for (const key of ['two', 'three', 'five', 'sixPlus'] as const) sum.poles[key] += b.poles[key];
  for (const key of ['openEdges', 'looseEdges', 'ngons', 'sixPlus', 'two'] as const)
    sum.released[key] += b.released[key];
  return sum;
}

/** What the Library shows. The stage reached is the one after the last that is marked done. */
export function summaryOf(document: AssetDocument, shipped = asEdited(document)): Summary {
  const { faces, openEdges, ngons, poles, looseEdges, released } = makeUpOf(shipped);
  const leftAlone = released.openEdges + released.ngons + released.sixPlus + released.looseEdges;
  const reached = Math.max(-1, ...document.done.map((s) => STAGES.indexOf(s))) + 1;
  const stage = faces > 0 && reached < 1 ? 'lay' : STAGES[Math.min(reached, STAGES.length - 1)];
  return {
    stage,
    faces,
    budget: document.settings.budget,
    needsALook: openEdges + ngons + poles.sixPlus + looseEdges - leftAlone,
  };
}

/** Why a piece must not be changed, in words; null where it may be. */
export const lockOf = ({ name, locked }: Pick<Piece, 'name' | 'locked'>): string | null =>
  locked ? `“${name}” is locked. Unlock it under Pieces to change it.` : null;
