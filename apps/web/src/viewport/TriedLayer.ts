import { Group } from 'three';
import type { MirrorPlane } from '@half-loop/core/math';
import type { PolyMesh } from '@half-loop/core/mesh';
import { LowPolyLayer, NO_EMPHASIS, type LowPolyColours } from './LowPolyLayer';
import { poleMarks } from './poleMarks';
import type { Mark } from './PointSet';

/** Paler than what is kept. */
const COLOURS: LowPolyColours = {
  face: () => [0.83, 0.86, 0.72],
  edge: () => null,
  ink: [0.16, 0.2, 0.1],
  border: [0.02, 0.1, 0.12],
  picked: [0, 0, 0],
  pointed: [0, 0, 0],
};

/** Faces that are shown before they are kept: what Lay all made, with its poles, or a patch of what an operator would make. */
export class TriedLayer {
  readonly group = new Group();
  private layer: LowPolyLayer | null = null;
  private shown: PolyMesh | null = null;
  private plane: MirrorPlane | null = null;

  /** Shows a mesh and its mirror image, or nothing; tells whether that changed anything. */
  show(mesh: PolyMesh | null, plane: MirrorPlane | null): boolean {
    if (mesh === this.shown) return false;
    this.dispose();
    [this.shown, this.plane] = [mesh, plane];
    if (!mesh) return true;
    this.layer = new LowPolyLayer(COLOURS, () => NO_EMPHASIS);
    this.layer.rebuild(mesh, plane);
    this.layer.showMirror(plane);
    this.group.add(this.layer.own, this.layer.mirror);
    return true;
  }

  get all(): readonly LowPolyLayer[] {
    return this.layer ? [this.layer] : [];
  }
  /** Null while nothing is shown. */
  marks(): Mark[] | null {
    return this.shown && poleMarks(this.shown, this.plane);
  }

  dispose(): void {
    this.group.clear();
    this.layer?.dispose();
    this.layer = null;
    this.shown = null;
  }
}
