import type { MirrorPlane } from '../math';
import type { PolygonSoup } from '../mesh';
import type { LoopsThere } from './field/loopsThere';
import type { Density } from './form/density';
import type { DrawnLine } from './lines/drawn';
import type { QuadSoup } from './quads/QuadSoup';

export interface LayAllOptions {
  /** wanted quads, of the whole when there is a plane */
  faces: number;
  /** 0: even sizes, 1: sizes by thickness and curvature */
  evenness: number;
  /** 0: the smoothest flow, 1: along the form's bends */
  followForm: number;
  /** edges sharper than this, in degrees, are kept; null: none but borders */
  keepEdges: number | null;
  /** only the half on the positive side is laid, up to the plane exactly */
  plane: MirrorPlane | null;
  /** parts smaller than a quad or two are left out, and said */
  dropDust: boolean;
  /** guides and borders of regions: chains of edges of the result */
  lines: readonly DrawnLine[];
  /** per point of the input how many quads in the place of one; null: alike */
  density: ArrayLike<number> | null;
  /** quads run along the edges of these faces where there are any near; null: along the form alone */
  loops: PolygonSoup | null;
  /** rounds of smoothing that the form goes through first */
  smoothing: number;
}

/** Sizes mostly by thickness and curvature, along the form, with nothing drawn on it. */
export const LAY_AS_USUAL: Omit<LayAllOptions, 'faces'> = {
  evenness: 0.7,
  followForm: 1,
  keepEdges: null,
  plane: null,
  dropDust: true,
  lines: [],
  density: null,
  loops: null,
  smoothing: 0,
};

/** The same while it is worked on. */
export type Asked = Omit<LayAllOptions, 'density' | 'loops'> & { density: Density | null; loops: LoopsThere | null };

export interface LaidAll {
  /** the quads; with a plane those of one half */
  soup: QuadSoup;
  /** what was repaired or closed, in words */
  mended: string[];
  /** by stage; empty without a clock to watch */
  seconds: Record<string, number>;
  /** which way each part was made */
  routes: { route: 'grid' | 'shell' | 'paired'; irregular: number; interior: number }[];
}

/** A count further off than this, as a share of what was asked for, is told; until then others are tried. */
export const COUNT_OFF = 0.02;
/** Rows of quads come and go whole: of a small part so many may be too few or too many. */
const QUADS_OFF = 2;
/** By what share of so many quads a part may have more or fewer. */
export const mayBeOff = (target: number): number => Math.max(COUNT_OFF, QUADS_OFF / target);
/** By what share of what is wanted so many quads are too many, or fewer than may be: what is wanted is mostly a budget. */
export const countMissed = (count: number, wanted: number): number =>
  Math.max(0, count / wanted - 1, 1 - mayBeOff(wanted) - count / wanted);
