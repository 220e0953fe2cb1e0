import type { Vec3 } from '@half-loop/core/math';
import type { PolyMesh } from '@half-loop/core/mesh';
import type { Flow } from '@half-loop/core/retopo';
import type { StickTo } from './PieceSurfaces';

export const LENSES = ['form', 'loops', 'poles', 'distance', 'density', 'warp', 'outline'] as const;
export type Lens = (typeof LENSES)[number];
export const VIEW_SIDES = ['front', 'back', 'left', 'right', 'top', 'under'] as const;
export type ViewSide = (typeof VIEW_SIDES)[number];
export const PLANE_SIDES = ['front', 'side', 'top'] as const;
export type PlaneSide = (typeof PLANE_SIDES)[number];

/** Quads that were laid and not kept yet. */
export interface Tried {
  mesh: PolyMesh;
  isHalf: boolean;
  /** the way that it was laid */
  name: string;
}

export interface ViewSettings {
  lens: Lens;
  /** latched; a held key adds to it */
  seeThrough: boolean;
  seeThroughHeld: boolean;
  columnsHidden: boolean;
  /** what points stick to */
  stickTo: StickTo;
  /** points laid near a guide catch on it */
  catchGuides: boolean;
  planeSide: PlaneSide;
  /** where the work plane stands along its normal, file units, from the floor or the middle */
  planeOffset: number;
  /** file units; null: a share of the size */
  weldWithin: number | null;
  kind: 'any' | 'vertices' | 'edges' | 'faces';
  /** a lasso or box takes what lies inside wholly, or all that it touches; what is hidden too, or only what is seen */
  lasso: { shape: 'box' | 'lasso'; wholly: boolean; through: boolean };
  /** what is picked stays picked, whatever is pressed */
  selectionLocked: boolean;
  /** what operators keep points on */
  hold: StickTo | 'own' | 'copy' | 'guides' | 'free';
  /** how far off it, along its normals, file units */
  holdGap: number;
  /** levels of the subdivision that is shown instead of the faces; 0: none */
  subdivision: 0 | 1 | 2 | 3;
  /** regions that are not shown, on the sculpt and on the low-poly; 0: what is in none */
  hiddenRegions: ReadonlySet<number>;
  /** only the piece in hand is shown */
  isolated: boolean;
  /** the piece in hand is drawn as its recipe makes it */
  showMade: boolean;
  /** triangles of the stand-in that a big sculpt is drawn by; null while it is drawn itself */
  standInTriangles: number | null;
  /** shown in place of the piece in hand; from `wipe` of the picture's width on */
  tried: Tried | null;
  /** others of the kind, shown left of that; null: what is there */
  against: Tried | null;
  wipe: number;
  /** pointed out, however the view moves, until it is taken away; file space */
  place: Vec3 | null;
  /** what a slow operator would make of a part, drawn so far before it while its settings are tried, file units */
  patch: { mesh: PolyMesh; lift: number } | null;
  /** where quads would run, on the half that is stored; over the sculpt what is laid there is out of the way */
  flow: (Flow & { over: 'sculpt' | 'piece'; keepsSharp: boolean }) | null;
}

const START: ViewSettings = {
  lens: 'form',
  seeThrough: false,
  seeThroughHeld: false,
  columnsHidden: false,
  stickTo: 'sculpt',
  catchGuides: true,
  planeSide: 'front',
  planeOffset: 0,
  weldWithin: null,
  kind: 'any',
  lasso: { shape: 'box', wholly: true, through: false },
  selectionLocked: false,
  hold: 'free',
  holdGap: 0,
  subdivision: 0,
  hiddenRegions: new Set(),
  isolated: false,
  showMade: true,
  standInTriangles: null,
  tried: null,
  against: null,
  wipe: 0,
  place: null,
  patch: null,
  flow: null,
};

/** How the open asset is looked at: this page's own, not part of the document or its history. */
export class ViewState {
  private settings = START;
  private readonly listeners = new Set<() => void>();

  get now(): ViewSettings {
    return this.settings;
  }
  set(change: Partial<ViewSettings>): void {
    this.settings = { ...this.settings, ...change };
    for (const listener of this.listeners) listener();
  }
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  get throughNow(): boolean {
    return this.settings.seeThrough || this.settings.seeThroughHeld;
  }
}
