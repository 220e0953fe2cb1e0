import { BufferAttribute, BufferGeometry, Group, Mesh } from 'three';
import type { MirrorPlane } from '@half-loop/core/math';
import type { PolyMesh } from '@half-loop/core/mesh';
import { cageOf, subdivide } from '@half-loop/core/subdivide';
import { vertexNormals } from '@half-loop/core/surface';
import { sculptMaterial } from './materials';

/** The low-poly as it looks when it is subdivided, both halves, drawn in place of its faces and kept up to date with edits. */
export class SubdivisionLayer {
  readonly group = new Group();
  readonly geometry = new BufferGeometry();
  private readonly material = sculptMaterial();
  private stale = true;

  constructor() {
    const mesh = new Mesh(this.geometry, this.material);
    mesh.frustumCulled = false;
    this.material.uniforms.uTint.value.set(0.5, 0.72, 0.68);
    this.group.add(mesh);
    this.group.visible = false;
  }

  show(isShown: boolean): void {
    this.group.visible = isShown;
  }
  changed(): void {
    this.stale = true;
  }

  /** Before a frame: subdivides again when something changed since. */
  update(mesh: PolyMesh, plane: MirrorPlane | null, levels: number): void {
    if (!this.group.visible || !this.stale) return;
    this.stale = false;
    const { positions, corners } = subdivide(cageOf(mesh, mesh.faces(), plane), levels);
    const points = Float32Array.from(positions);
    const indices = new Uint32Array((corners.length / 4) * 6);
    for (let q = 0, at = 0; q < corners.length; q += 4)
      for (const k of [0, 1, 2, 0, 2, 3]) indices[at++] = corners[q + k];
    this.geometry.dispose();
    this.geometry.setAttribute('position', new BufferAttribute(points, 3));
    this.geometry.setAttribute('normal', new BufferAttribute(vertexNormals(points, indices), 3));
    this.geometry.setIndex(new BufferAttribute(indices, 1));
  }

  dispose(): void {
    this.geometry.dispose();
    this.material.dispose();
  }
}
