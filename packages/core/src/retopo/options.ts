import type { MirrorPlane } from '../math';
import type { QuadSoup } from './extract';
import type { Stage } from './Stages';

export interface LayAllOptions {
  /** wanted quads, of the whole when there is a plane */
  faces: number;
  /** 0: even sizes, 1: sizes by thickness */
  evenness: number;
  /** 0: the smoothest flow, 1: along the form's bends */
  followForm: number;
  /** edges sharper than this, in degrees, are kept; null: none but borders */
  keepEdges: number | null;
  /** only the half on the positive side is laid, up to the plane exactly */
  plane: MirrorPlane | null;
  /** parts smaller than a quad or two are left out, and said */
  dropDust: boolean;
}

export interface LaidAll {
  /** the quads; with a plane those of one half */
  soup: QuadSoup;
  /** what was repaired or closed, in words */
  mended: string[];
  stages: Stage[];
  /** which way each part was made */
  routes: { route: 'grid' | 'shell' | 'paired'; irregular: number; interior: number }[];
}
