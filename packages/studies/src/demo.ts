import { DEFAULT_SETTINGS, encodeDocument, type AssetDocument, type Summary } from '@half-loop/contract';
import { makeUp } from '@half-loop/core/inspect';
import type { PolyMesh } from '@half-loop/core/mesh';
import { encodeSculpt, SculptSurface, type TriangleData } from '@half-loop/core/surface';
import { blenny } from './blenny';
import { crab } from './crab';
import { crabRings } from './crabRings';
import { kelp } from './kelp';
import { blennyRings, kelpTube } from './lowPolys';

export const DEMO_PROJECT = 'Tidepool Post';

interface DemoAsset {
  sculpt(): TriangleData;
  lowPoly(surface: SculptSurface): PolyMesh;
  document: Omit<AssetDocument, 'pieces'>;
  summary: Pick<Summary, 'stage'>;
}

/** The demo project's assets by name, in the order of the work. */
const ASSETS: Readonly<Record<string, DemoAsset>> = {
  'Blenny bust': {
    sculpt: () => blenny(),
    lowPoly: blennyRings,
    document: {
      settings: {
        ...DEFAULT_SETTINGS,
        symmetry: { on: true, axis: 'x', offset: 0 },
        purpose: 'bends',
        seenHeight: 430,
        budget: 2400,
      },
      done: ['gather'],
    },
    summary: { stage: 'lay' },
  },
  'Crab pincer': {
    sculpt: () => crab(),
    lowPoly: crabRings,
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'bends', seenHeight: 320, budget: 420 },
      done: ['gather', 'lay'],
    },
    summary: { stage: 'flow' },
  },
  'Kelp tendril': {
    sculpt: () => kelp(),
    lowPoly: kelpTube,
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'bends', seenHeight: 260, budget: 900 },
      done: ['gather', 'lay', 'flow', 'trim', 'prove'],
    },
    summary: { stage: 'ship' },
  },
};
export const DEMO_NAMES = Object.keys(ASSETS);

/** One demo asset as stored bytes: the canonical sculpt and the uncompressed document. Takes seconds. */
export function demoAsset(name: string): { sculpt: Uint8Array; document: Uint8Array } {
  const { sculpt, lowPoly, document, summary } = ASSETS[name];
  const data = sculpt();
  const bytes = encodeSculpt(data);
  const mesh = lowPoly(SculptSurface.build(data));
  const { settings } = document;
  const counts = makeUp(mesh, settings.symmetry.on ? settings.symmetry : null);
  const piece = { id: 'low-poly', name: 'Low-poly', visible: true, mesh };
  return {
    sculpt: bytes,
    document: encodeDocument(
      { ...document, pieces: [piece] },
      {
        ...summary,
        faces: counts.faces,
        budget: settings.budget,
        needsALook: counts.openEdges + counts.ngons + counts.poles.sixPlus,
      },
    ),
  };
}
