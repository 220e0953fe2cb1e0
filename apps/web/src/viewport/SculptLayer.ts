import { BufferAttribute, BufferGeometry, Mesh, Vector3 } from 'three';
import type { AssetSettings, DensityStroke, Region } from '@half-loop/contract';
import type { MirrorPlane } from '@half-loop/core/math';
import { paintedDensity } from '@half-loop/core/retopo';
import { STAND_IN_ABOVE, type DrawnTriangles, type SculptSurface } from '@half-loop/core/surface';
import { withSculptWorker } from '../session';
import { sculptMaterial, srgb } from './materials';
import { MODEL_COLOURS } from './modelColours';
import { RegionTint, type ShownRegions } from './RegionTint';

/** Opacity of the sculpt while the view sees through it, at most. */
const THROUGH_OPACITY = 0.35;

/** The sculpt on the GPU: its own arrays, uploaded once. */
export class SculptLayer {
  readonly mesh: Mesh;
  private readonly material = sculptMaterial();

  /** what the geometry is tinted by */
  private painted: { strokes: readonly DensityStroke[]; geometry: BufferGeometry } | null = null;

  private readonly regions = new RegionTint();
  /** the sculpt's vertex that each drawn one is, while a stand-in is drawn */
  private vertexOf: Uint32Array | undefined = undefined;

  constructor(private readonly surface: SculptSurface) {
    this.material.uniforms.uMore.value = new Vector3(...MODEL_COLOURS.denser);
    this.material.uniforms.uFewer.value = new Vector3(...MODEL_COLOURS.sparser);
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
    this.vertexOf = drawn.vertexOf;
    return drawn.indices.length / 3;
  }

  dispose(): void {
    this.mesh.geometry.dispose();
    this.material.dispose();
  }

  /** Tints what strokes of density reach, on both halves: more quads in one colour, fewer in another. Cost: the drawn points, when strokes changed. */
  private paint(strokes: readonly DensityStroke[], plane: MirrorPlane | null): void {
    const { geometry } = this.mesh;
    if (this.painted?.strokes === strokes && this.painted.geometry === geometry) return;
    this.painted = { strokes, geometry };
    if (strokes.length === 0) return void geometry.deleteAttribute('density');
    const density = paintedDensity(geometry.getAttribute('position').array, strokes, plane);
    // sixteen times, or a sixteenth, in full colour
    geometry.setAttribute(
      'density',
      new BufferAttribute(
        Float32Array.from(density, (d) => Math.log2(d) / 2),
        1,
      ),
    );
  }

  /** Shows vertices as if they were in a region already, until regions are shown again. */
  previewRegion(vertices: Iterable<number>, region: Region | null): void {
    this.regions.preview(this.mesh.geometry, this.vertexOf, vertices, region);
  }
  /** Tints regions, and leaves out hidden ones. */
  showRegions(shown: ShownRegions): void {
    this.regions.show(this.mesh.geometry, this.vertexOf, shown);
  }

  apply(
    { sculpt: { tint, opacity, visible }, densities }: AssetSettings,
    plane: MirrorPlane | null,
    through: boolean,
  ): void {
    this.paint(densities, plane);
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
