import { DEFAULT_SETTINGS, encodeDocument, type AssetDocument, type Summary } from '@half-loop/contract';
import { makeUp } from '@half-loop/core/inspect';
import type { PolyMesh } from '@half-loop/core/mesh';
import { encodeSculpt, SculptSurface, type TriangleData } from '@half-loop/core/surface';
import { blenny } from './blenny';
import { crab } from './crab';
import { crabRings } from './crabRings';
import { kelp } from './kelp';
import { mailCapsule } from './mailCapsule';
import { blennyRings, kelpTube } from './lowPolys';

export const DEMO_PROJECT = 'Tidepool Post';

interface DemoAsset {
  /** none: the part starts from a shape */
  sculpt?(): TriangleData;
  lowPoly(surface: SculptSurface | null): PolyMesh;
  document: Omit<AssetDocument, 'pieces'>;
  summary: Pick<Summary, 'stage'>;
}

/** A low-poly that is laid on its sculpt. */
const on =
  (lay: (surface: SculptSurface) => PolyMesh) =>
  (surface: SculptSurface | null): PolyMesh =>
    lay(surface as SculptSurface);

/** The demo project's assets by name, in the order of the work. */
const ASSETS: Readonly<Record<string, DemoAsset>> = {
  'Blenny bust': {
    sculpt: () => blenny(),
    lowPoly: on(blennyRings),
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
    lowPoly: on(crabRings),
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'bends', seenHeight: 320, budget: 420 },
      done: ['gather', 'lay'],
    },
    summary: { stage: 'flow' },
  },
  'Mail capsule': {
    lowPoly: mailCapsule,
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'rigid', seenHeight: 240, budget: 900 },
      done: ['gather', 'lay'],
    },
    summary: { stage: 'flow' },
  },
  'Kelp tendril': {
    sculpt: () => kelp(),
    lowPoly: on(kelpTube),
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'bends', seenHeight: 260, budget: 900 },
      done: ['gather', 'lay', 'flow', 'trim', 'prove'],
    },
    summary: { stage: 'ship' },
  },
};
export const DEMO_NAMES = Object.keys(ASSETS);

/** One demo asset as stored bytes: the canonical sculpt and the uncompressed document. Takes seconds. */
export function demoAsset(name: string): { sculpt: Uint8Array | null; document: Uint8Array } {
  const { sculpt, lowPoly, document, summary } = ASSETS[name];
  const data = sculpt?.() ?? null;
  const mesh = lowPoly(data && SculptSurface.build(data));
  const { settings } = document;
  const counts = makeUp(mesh, settings.symmetry.on ? settings.symmetry : null);
  const piece = { id: 'low-poly', name: 'Low-poly', visible: true, mesh };
  return {
    sculpt: data && encodeSculpt(data),
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
