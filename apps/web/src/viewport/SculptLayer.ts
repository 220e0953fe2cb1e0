import { BufferAttribute, BufferGeometry, Mesh, Vector3 } from 'three';
import type { AssetSettings } from '@half-loop/contract';
import type { SculptSurface } from '@half-loop/core/surface';
import { sculptMaterial, srgb } from './materials';

/** Opacity of the sculpt while the view sees through it, at most. */
const THROUGH_OPACITY = 0.35;

/** The sculpt on the GPU: its own arrays, uploaded once. */
export class SculptLayer {
  readonly mesh: Mesh;
  private readonly material = sculptMaterial();

  constructor({ positions, indices, normals }: SculptSurface) {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(positions, 3));
    geometry.setAttribute('normal', new BufferAttribute(normals, 3));
    geometry.setIndex(new BufferAttribute(indices, 1));
    this.mesh = new Mesh(geometry, this.material);
    this.mesh.frustumCulled = false;
  }

  apply({ tint, opacity, visible }: AssetSettings['sculpt'], through: boolean): void {
    const shown = through ? Math.min(opacity, THROUGH_OPACITY) : opacity;
    this.mesh.visible = visible;
    this.material.uniforms.uTint.value = new Vector3(...srgb(tint));
    this.material.uniforms.uOpacity.value = shown;
    this.material.transparent = shown < 1;
    this.material.depthWrite = !through;
    this.material.needsUpdate = true;
  }
}
