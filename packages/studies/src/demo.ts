import {
  DEFAULT_SETTINGS,
  encodeDocument,
  plainPiece,
  type AssetDocument,
  type Guide,
  type Piece,
  type Summary,
} from '@half-loop/contract';
import { makeUp, type MakeUp } from '@half-loop/core/inspect';
import type { PolyMesh } from '@half-loop/core/mesh';
import { followRecipe, isFollowed } from '@half-loop/core/ops';
import { encodeSculpt, SculptSurface, type TriangleData } from '@half-loop/core/surface';
import { blenny } from './blenny';
import { crab } from './crab';
import { crabRings } from './crabRings';
import { kelp } from './kelp';
import { mailCapsule } from './mailCapsule';
import { blennyGuides, blennyRings, kelpTube, whelkLaid } from './lowPolys';
import { whelk } from './whelk';

export const DEMO_PROJECT = 'Tidepool Post';

interface DemoAsset {
  /** none: the part starts from a shape */
  sculpt?(): TriangleData;
  pieces(surface: SculptSurface | null): Piece[];
  guides?(surface: SculptSurface): Guide[];
  document: Omit<AssetDocument, 'pieces'>;
  summary: Pick<Summary, 'stage'>;
}

/** A low-poly that is laid on its sculpt. */
const on =
  (lay: (surface: SculptSurface) => PolyMesh) =>
  (surface: SculptSurface | null): Piece[] => [plainPiece('low-poly', 'Low-poly', lay(surface as SculptSurface))];

/** The demo project's assets by name, in the order of the work. */
const ASSETS: Readonly<Record<string, DemoAsset>> = {
  'Blenny bust': {
    sculpt: () => blenny(),
    pieces: on(blennyRings),
    guides: blennyGuides,
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
    pieces: on(crabRings),
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'bends', seenHeight: 320, budget: 420 },
      done: ['gather', 'lay'],
    },
    summary: { stage: 'flow' },
  },
  'Whelk horn': {
    sculpt: () => whelk(),
    pieces: on(whelkLaid),
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'still', seenHeight: 360, budget: 2400 },
      done: ['gather', 'lay', 'flow'],
    },
    summary: { stage: 'trim' },
  },
  'Mail capsule': {
    pieces: mailCapsule,
    document: {
      settings: { ...DEFAULT_SETTINGS, purpose: 'rigid', seenHeight: 240, budget: 900 },
      done: ['gather', 'lay'],
    },
    summary: { stage: 'flow' },
  },
  'Kelp tendril': {
    sculpt: () => kelp(),
    pieces: on(kelpTube),
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
  const { sculpt, pieces: piecesOn, guides, document, summary } = ASSETS[name];
  const data = sculpt?.() ?? null;
  const surface = data && SculptSurface.build(data);
  const pieces = piecesOn(surface);
  const settings = { ...document.settings, guides: surface && guides ? guides(surface) : [] };
  const plane = settings.symmetry.on ? settings.symmetry : null;
  const all = pieces.map((p) =>
    isFollowed(p) ? makeUp(followRecipe(p, plane, pieces).mesh, null) : makeUp(p.mesh, plane),
  );
  const sum = (of: (up: MakeUp) => number): number => all.reduce((n, up) => n + of(up), 0);
  return {
    sculpt: data && encodeSculpt(data),
    document: encodeDocument(
      { ...document, settings, pieces },
      {
        ...summary,
        faces: sum((up) => up.faces),
        budget: settings.budget,
        needsALook: sum((up) => up.openEdges + up.ngons + up.poles.sixPlus),
      },
    ),
  };
}
