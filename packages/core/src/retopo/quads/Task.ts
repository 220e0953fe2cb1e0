import type { MirrorPlane } from '../../math';
import type { TriMesh } from '../form/TriMesh';
import type { Ground } from '../lines/ground';
import type { RidgeChain } from '../lines/ridgeChains';
import type { FormCrossings } from './FormCrossings';
import type { Topology } from './verify';

/** A connected working mesh and what its quads must come to. */
export interface Task {
  work: TriMesh;
  corners: Uint8Array;
  /** along which loops should run */
  ridges: readonly RidgeChain[];
  ground: Ground;
  /** where quads may run through each other, as the form does */
  formCrossings: FormCrossings;
  target: number;
  /** wanted edge length of the quads and of the working mesh, file units */
  size: number;
  working: number;
  topology: Topology;
  /** of which only one half is laid */
  plane: MirrorPlane | null;
  /** xyz of places that the quads should reach */
  samples: Float64Array;
}
