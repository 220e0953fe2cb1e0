import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS, plainPiece, type AssetDocument } from '@half-loop/contract';
import { PolyMesh } from '@half-loop/core/mesh';
import { cubeMesh, gridMesh } from '@half-loop/core/testing';
import type { Shipped } from './RecipeWatch';
import { makeUpOf, planeOf, summaryOf } from './summary';

const documentOf = (meshes: PolyMesh[], change: Partial<AssetDocument> = {}): AssetDocument => ({
  settings: DEFAULT_SETTINGS,
  done: [],
  pieces: meshes.map((mesh, i) => plainPiece(String(i), 'Piece', mesh)),
  ...change,
});

const asIs = (document: AssetDocument): Shipped[] =>
  document.pieces.map(({ mesh }) => ({ mesh, plane: planeOf(document) }));

describe('the summary', () => {
  it('adds the pieces up and counts what needs a look', () => {
    const document = documentOf([cubeMesh(), gridMesh(2, 1)]);
    expect(makeUpOf(asIs(document))).toMatchObject({ faces: 8, quads: 8, openEdges: 6, poles: { three: 8 } });
    expect(summaryOf(document)).toEqual({ stage: 'lay', faces: 8, budget: 2000, needsALook: 6 });
  });
  it('counts the mirrored half while symmetry is on', () => {
    const settings = { ...DEFAULT_SETTINGS, symmetry: { on: true, axis: 'x', offset: 0 } as const };
    const document = documentOf([gridMesh(2, 1)], { settings });
    expect(planeOf(document)).toEqual({ axis: 'x', offset: 0 });
    expect(makeUpOf(asIs(document))).toMatchObject({ faces: 4, openEdges: 10 });
  });
  it('reaches the stage after the last one marked done', () => {
    expect(summaryOf(documentOf([new PolyMesh()])).stage).toBe('gather');
    expect(summaryOf(documentOf([cubeMesh()], { done: ['gather', 'lay', 'flow'] })).stage).toBe('trim');
    expect(summaryOf(documentOf([cubeMesh()], { done: ['ship'] })).stage).toBe('ship');
    expect(makeUpOf([]).faces).toBe(0);
  });
});
