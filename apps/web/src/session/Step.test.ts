import { describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS, plainPiece, type AssetDocument, type AssetSettings } from '@half-loop/contract';
import { EMPTY_SELECTION, PolyMesh } from '@half-loop/core/mesh';
import { applyPatches } from './Step';

const document = (): AssetDocument => ({
  settings: { ...DEFAULT_SETTINGS, budget: 500, sculptRegions: '1:5' },
  done: [],
  pieces: [{ ...plainPiece('p', 'Low-poly', new PolyMesh()), locked: true, tint: '#123456' }],
});
const selection = { before: EMPTY_SELECTION, after: EMPTY_SELECTION };

describe('a step of an earlier version', () => {
  it('leaves settings that were added since as they begin', () => {
    const { sculptRegions, densities, ...known } = DEFAULT_SETTINGS;
    const old = { ...known, budget: 900 } as AssetSettings;
    const now = document();
    applyPatches(now, { settings: { before: now.settings, after: old }, selection }, true);
    expect(now.settings).toEqual({ ...DEFAULT_SETTINGS, budget: 900, sculptRegions, densities });
    applyPatches(now, { settings: { before: document().settings, after: old }, selection }, false);
    expect(now.settings).toEqual(document().settings);
  });
  it('leaves what pieces have been given since', () => {
    const now = document();
    const head = { id: 'p', name: 'Bust', visible: true, guide: false, recipe: [] };
    applyPatches(now, { heads: { before: [], after: [head as never] }, selection }, true);
    expect(now.pieces[0]).toMatchObject({ name: 'Bust', locked: true, tint: '#123456' });
  });
});
