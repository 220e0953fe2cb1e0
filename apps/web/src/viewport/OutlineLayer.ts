import {
  AddEquation,
  BufferAttribute,
  BufferGeometry,
  CustomBlending,
  DoubleSide,
  GLSL3,
  Group,
  Mesh,
  OneFactor,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  Vector2,
  Vector3,
  WebGLRenderTarget,
  type Matrix4,
  type PerspectiveCamera,
  type WebGLRenderer,
} from 'three';
import type { SculptSurface } from '@half-loop/core/surface';
import type { LowPolyLayer } from './LowPolyLayer';
import { MODEL_COLOURS } from './modelColours';
import type { SubdivisionLayer } from './SubdivisionLayer';

interface Silhouette {
  geometry: BufferGeometry;
  matrix: Matrix4 | null;
}

/**
 * The lens Outline: the silhouettes of the form (a sculpt or a kept copy) and of the low-poly as lines over the picture, and what
 * lies between them tinted. Both are drawn as flat masks into one texture (red the form, green the low-poly), whose steps are
 * the outlines: right at every size, with no walk over the triangles. Cost: two flat passes and one over the view's pixels.
 */
export class OutlineLayer {
  readonly quad: Mesh;
  private readonly target = new WebGLRenderTarget(1, 1);
  private readonly scene = new Scene();
  private readonly group = new Group();
  private readonly formMaterial = maskMaterial(new Vector3(1, 0, 0));
  private readonly lowPolyMaterial = maskMaterial(new Vector3(0, 1, 0));
  private readonly lines = lineMaterialOf(this.target);
  private surface: SculptSurface | null = null;
  private form: Mesh | null = null;

  constructor() {
    this.quad = new Mesh(new PlaneGeometry(2, 2), this.lines);
    this.quad.frustumCulled = false;
    this.quad.renderOrder = 7;
    this.quad.visible = false;
    this.scene.add(this.group);
    this.group.matrixAutoUpdate = false;
  }

  /** Before a frame, while the lens is on. */
  draw(
    gl: WebGLRenderer,
    camera: PerspectiveCamera,
    placed: Matrix4,
    form: SculptSurface | null,
    lowPoly: Silhouette[],
  ): void {
    const size = gl.getDrawingBufferSize(new Vector2());
    this.target.setSize(size.x, size.y);
    this.lines.uniforms.uStep.value.set(1 / size.x, 1 / size.y);
    this.lines.uniforms.uRatio.value = gl.getPixelRatio();
    this.takeForm(form);
    this.group.clear();
    if (this.form) this.group.add(this.form);
    for (const { geometry, matrix } of lowPoly) {
      const mesh = new Mesh(geometry, this.lowPolyMaterial);
      mesh.frustumCulled = false;
      mesh.matrixAutoUpdate = false;
      if (matrix) mesh.matrix.copy(matrix);
      this.group.add(mesh);
    }
    this.group.matrix.copy(placed);
    this.group.matrixWorldNeedsUpdate = true;
    camera.updateMatrixWorld();
    gl.setRenderTarget(this.target);
    gl.setClearColor(0, 0);
    gl.clear();
    gl.render(this.scene, camera);
    gl.setRenderTarget(null);
  }

  dispose(): void {
    this.target.dispose();
    this.quad.geometry.dispose();
    this.form?.geometry.dispose();
    for (const m of [this.formMaterial, this.lowPolyMaterial, this.lines]) m.dispose();
  }

  private takeForm(surface: SculptSurface | null): void {
    if (surface === this.surface) return;
    this.surface = surface;
    this.form?.geometry.dispose();
    this.form = null;
    if (!surface) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(surface.positions, 3));
    geometry.setIndex(new BufferAttribute(surface.indices, 1));
    this.form = new Mesh(geometry, this.formMaterial);
    this.form.frustumCulled = false;
  }
}

/** What the low-poly's mask is drawn from: its own half and the mirrored one, or what is shown subdivided in place of both. */
export function silhouettesOf({ geometry, mirror }: LowPolyLayer, finer: SubdivisionLayer): Silhouette[] {
  if (finer.group.visible) return [{ geometry: finer.geometry, matrix: null }];
  const own = { geometry, matrix: null };
  return mirror.visible ? [own, { geometry, matrix: mirror.matrix }] : [own];
}

function maskMaterial(colour: Vector3): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    side: DoubleSide,
    depthTest: false,
    depthWrite: false,
    transparent: true,
    blending: CustomBlending,
    blendEquation: AddEquation,
    blendSrc: OneFactor,
    blendDst: OneFactor,
    uniforms: { uColour: { value: colour } },
    vertexShader: /* glsl */ `
      void main() {
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      out vec4 outColour;
      uniform vec3 uColour;
      void main() {
        outColour = vec4(uColour, 0.0);
      }`,
  });
}

function lineMaterialOf(target: WebGLRenderTarget): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    depthTest: false,
    depthWrite: false,
    transparent: true,
    premultipliedAlpha: true,
    uniforms: {
      uMask: { value: target.texture },
      uStep: { value: new Vector2(1, 1) },
      uRatio: { value: 1 },
      uForm: { value: new Vector3(...MODEL_COLOURS.ink) },
      uLowPoly: { value: new Vector3(...MODEL_COLOURS.picked) },
      uBetween: { value: new Vector3(...MODEL_COLOURS.pointed) },
    },
    vertexShader: /* glsl */ `
      out vec2 vUv;
      void main() {
        vUv = uv;
        gl_Position = vec4(position.xy, 0.0, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      in vec2 vUv;
      out vec4 outColour;
      uniform sampler2D uMask;
      uniform vec2 uStep;
      uniform float uRatio;
      uniform vec3 uForm, uLowPoly, uBetween;
      vec2 mask(vec2 at) { return step(0.5, texture(uMask, at).rg); }
      void main() {
        vec2 here = mask(vUv);
        vec2 edge = vec2(0.0);
        for (int i = -1; i <= 1; i++)
          for (int j = -1; j <= 1; j++) edge = max(edge, abs(here - mask(vUv + vec2(float(i), float(j)) * uStep * uRatio)));
        vec4 c = abs(here.r - here.g) > 0.5 ? vec4(uBetween, 1.0) * 0.75 : vec4(0.0);
        if (edge.r > 0.5) c = vec4(uForm, 1.0);
        if (edge.g > 0.5) c = vec4(uLowPoly, 1.0);
        if (c.a < 0.01) discard;
        outColour = c;
      }`,
  });
}
