import { BufferAttribute, BufferGeometry, Mesh, Vector3 } from 'three';
import type { AssetSettings } from '@half-loop/contract';
import { STAND_IN_ABOVE, type DrawnTriangles, type SculptSurface } from '@half-loop/core/surface';
import { withSculptWorker } from '../session';
import { sculptMaterial, srgb } from './materials';

/** Opacity of the sculpt while the view sees through it, at most. */
const THROUGH_OPACITY = 0.35;

/** The sculpt on the GPU: its own arrays, uploaded once. */
export class SculptLayer {
  readonly mesh: Mesh;
  private readonly material = sculptMaterial();

  constructor(private readonly surface: SculptSurface) {
    this.mesh = new Mesh(geometryOf(surface), this.material);
    this.mesh.frustumCulled = false;
  }

  /**
   * Above half a million triangles the sculpt is drawn by fewer, made in a worker; resolves with how many, or null. Snapping keeps
   * the full one, and without a stand-in the view keeps it too: slower to turn, nothing else.
   */
  async lighten(signal: AbortSignal): Promise<number | null> {
    const { positions, indices, triangleCount } = this.surface;
    if (triangleCount <= STAND_IN_ABOVE) return null;
    const drawn = await withSculptWorker((worker) => worker.standIn({ positions, indices }), signal).catch(() => null);
    if (!drawn || signal.aborted) return null;
    this.mesh.geometry.dispose();
    this.mesh.geometry = geometryOf(drawn);
    return drawn.indices.length / 3;
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.material.dispose();
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

function geometryOf({ positions, normals, indices }: DrawnTriangles): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(normals, 3));
  geometry.setIndex(new BufferAttribute(indices, 1));
  return geometry;
}
