import { HalfLoopError } from '../errors';
import { SculptSurface, WalkingForm } from '../surface';
import { cleaned, type Triangles } from './clean';
import { extracted, type QuadSoup } from './extract';
import { crossField, indicesOf } from './field';
import { Grid } from './grid';
import { markLines, type Curve } from './lines';
import { relaxed } from './relax';
import { seamsOf } from './seams';
import { areaOf, spreadOf } from './sizes';
import type { TriMesh } from './TriMesh';
import { topologyOf, verified, type Verdict } from './verify';
import { evenTriangles, reduce } from './working';

export interface LayAllOptions {
  faces: number;
  /** 0: even sizes, 1: sizes by thickness */
  evenness: number;
  /** 0: the smoothest flow, 1: along the form's bends */
  followForm: number;
  /** edges sharper than this, in degrees, are kept; null: none */
  keepEdges: number | null;
}

export interface Stage {
  name: string;
  seconds: number;
}

export interface LaidPart {
  soup: QuadSoup;
  verdict: Verdict;
}
