import { DoubleSide, GLSL3, ShaderMaterial, Vector2, Vector3 } from 'three';

export type Srgb = [number, number, number];
export const srgb = (hex: string): Srgb => [1, 3, 5].map((i) => parseInt(hex.slice(i, i + 2), 16) / 255) as Srgb;

/** Draws as if `uLift` file units nearer, so that what lies on the sculpt wins over it. */
const LIFT = /* glsl */ `
uniform float uLift;
void lift() {
  float vz = min(-gl_Position.w + uLift, -1e-4);
  gl_Position.z = (projectionMatrix[2][2] * vz + projectionMatrix[3][2]) / -vz * gl_Position.w;
}`;
const LIGHT = /* glsl */ `
float shade(vec3 n) {
  return 0.40 + 0.58 * max(0.0, dot(n, normalize(vec3(-0.45, 0.7, 0.6)))) + 0.18 * max(0.0, dot(n, normalize(vec3(0.8, -0.1, 0.4))));
}`;

/** The sculpt: one tint, two lights, never hatched. */
export function sculptMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    side: DoubleSide,
    uniforms: { uTint: { value: new Vector3(0.8, 0.7, 0.6) }, uOpacity: { value: 1 }, uMore: { value: new Vector3() }, uFewer: { value: new Vector3() } }, // prettier-ignore
    vertexShader: /* glsl */ `
      in float density;
      in vec4 region;
      out vec3 vNormal;
      out float vDensity;
      out vec4 vRegion;
      void main() {
        vDensity = density;
        vRegion = region;
        vNormal = normalMatrix * normal;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
      }`,
    fragmentShader: /* glsl */ `
      in vec3 vNormal;
      in float vDensity;
      in vec4 vRegion;
      out vec4 outColour;
      uniform vec3 uTint, uMore, uFewer;
      uniform float uOpacity;
      ${LIGHT}
      void main() {
        vec3 n = normalize(gl_FrontFacing ? vNormal : -vNormal);
        // a point of a region has its tint times how much of it, and one less that; a hidden one has all of it
        float marked = 1.0 - vRegion.a;
        if (marked > 0.74) discard;
        vec3 own = uTint * (1.0 - min(marked / 0.47, 1.0) * 0.75) + vRegion.rgb / 0.47 * 0.75;
        vec3 tint = mix(own, vDensity > 0.0 ? uMore : uFewer, min(abs(vDensity), 1.0) * 0.6);
        outColour = vec4(min(tint * shade(n) * 1.08, 1.0) * uOpacity, uOpacity);
      }`,
    premultipliedAlpha: true,
  });
}

/** Drawn from so many to so many device pixels across the picture alone. */
const SPAN = /* glsl */ `
uniform vec2 uSpan;
void keepToSpan() {
  if (gl_FragCoord.x < uSpan.x || gl_FragCoord.x >= uSpan.y) discard;
}`;
const EVERYWHERE: [number, number] = [-1e6, 1e6];

/** Low-poly faces: a tint a corner, backs hatched, picked and pointed-at ones mixed with their colour. */
export function faceMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    side: DoubleSide,
    uniforms: {
      uLift: { value: 0 },
      uOpacity: { value: 1 },
      uBack: { value: new Vector3() },
      uPicked: { value: new Vector3() },
      uPointed: { value: new Vector3() },
      uFade: { value: 0 },
      uSpan: { value: new Vector2(...EVERYWHERE) },
    },
    vertexShader: /* glsl */ `
      in vec4 tint;
      out vec3 vNormal;
      out vec4 vTint;
      ${LIFT}
      void main() {
        vNormal = normalMatrix * normal;
        vTint = tint;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
        lift();
      }`,
    fragmentShader: /* glsl */ `
      in vec3 vNormal;
      in vec4 vTint;
      out vec4 outColour;
      uniform vec3 uBack, uPicked, uPointed;
      uniform float uOpacity, uFade;
      ${LIGHT}
      ${SPAN}
      void main() {
        keepToSpan();
        vec3 n = normalize(vNormal);
        vec3 c = vTint.rgb;
        if (vTint.a > 0.75) c = mix(c, uPointed, 0.6);
        else if (vTint.a > 0.25) c = mix(c, uPicked, 0.6);
        if (gl_FrontFacing) c *= shade(n) * 1.1;
        else c = mod(gl_FragCoord.x + gl_FragCoord.y, 9.0) < 3.0 ? uBack : mix(c, vec3(0.93, 0.9, 0.86), 0.72);
        c = mix(c, vec3(0.86), uFade);
        outColour = vec4(min(c, 1.0) * uOpacity, uOpacity);
      }`,
    transparent: true,
    premultipliedAlpha: true,
  });
}

/** Instanced segments with a width in pixels, a colour each. */
export function lineMaterial(depthTest: boolean): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    side: DoubleSide,
    uniforms: { uLift: { value: 0 }, uResolution: { value: new Vector2(1, 1) }, uFade: { value: 0 }, uSpan: { value: new Vector2(...EVERYWHERE) } }, // prettier-ignore
    vertexShader: /* glsl */ `
      in vec3 aStart;
      in vec3 aEnd;
      in vec4 aColour;
      in float aWidth;
      uniform vec2 uResolution;
      out vec4 vColour;
      ${LIFT}
      void main() {
        vColour = aColour;
        vec4 a = modelViewMatrix * vec4(aStart, 1.0);
        vec4 b = modelViewMatrix * vec4(aEnd, 1.0);
        float near = -0.001;
        if (a.z > near && b.z < near) a = mix(a, b, (a.z - near) / (a.z - b.z));
        if (b.z > near && a.z < near) b = mix(b, a, (b.z - near) / (b.z - a.z));
        vec4 ca = projectionMatrix * a;
        vec4 cb = projectionMatrix * b;
        vec2 along = (cb.xy / cb.w - ca.xy / ca.w) * uResolution;
        along = length(along) > 1e-4 ? normalize(along) : vec2(1.0, 0.0);
        vec2 across = vec2(-along.y, along.x);
        gl_Position = position.x < 0.5 ? ca : cb;
        vec2 push = across * position.y * aWidth + along * (position.x * 2.0 - 1.0) * aWidth * 0.4;
        gl_Position.xy += push / uResolution * gl_Position.w;
        if (aWidth <= 0.0) gl_Position = vec4(2.0, 2.0, 2.0, 1.0);
        lift();
      }`,
    fragmentShader: /* glsl */ `
      in vec4 vColour;
      out vec4 outColour;
      uniform float uFade;
      ${SPAN}
      void main() {
        keepToSpan();
        vec3 c = mix(vColour.rgb, vec3(0.8), uFade);
        outColour = vec4(c * vColour.a, vColour.a);
      }`,
    transparent: true,
    premultipliedAlpha: true,
    depthTest,
    depthWrite: false,
  });
}

/** Points as shapes of a size in pixels: 0 disc, 1 ring, 3 triangle, 5 pentagon, 6 hexagon; see-through where `opacity` is below 1. */
export function pointMaterial(depthTest: boolean, opacity = 1): ShaderMaterial {
  return new ShaderMaterial({
    glslVersion: GLSL3,
    uniforms: {
      uLift: { value: 0 },
      uRatio: { value: 1 },
      uSpan: { value: new Vector2(...EVERYWHERE) },
      uOpacity: { value: opacity },
    },
    vertexShader: /* glsl */ `
      in vec4 aColour;
      in float aSize;
      in float aShape;
      uniform float uRatio;
      out vec4 vColour;
      out float vShape;
      out float vSize;
      ${LIFT}
      void main() {
        vColour = aColour;
        vShape = aShape;
        vSize = aSize;
        gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
        gl_PointSize = aSize * uRatio;
        lift();
      }`,
    fragmentShader: /* glsl */ `
      in vec4 vColour;
      in float vShape;
      in float vSize;
      uniform float uOpacity;
      out vec4 outColour;
      ${SPAN}
      void main() {
        keepToSpan();
        vec2 p = (gl_PointCoord - 0.5) * 2.0;
        p.y = -p.y;
        float r = length(p);
        float d = r;
        if (vShape > 2.5) {
          float sector = 6.2831853 / vShape;
          float a = atan(p.x, p.y);
          d = cos(mod(a, sector) - sector * 0.5) * r / cos(sector * 0.5);
        }
        float soft = 2.0 / vSize;
        float alpha = 1.0 - smoothstep(1.0 - soft, 1.0, d);
        if (vShape > 0.5 && vShape < 1.5) alpha *= smoothstep(1.0 - 2.0 * soft - soft, 1.0 - 2.0 * soft, d);
        vec3 c = vShape > 2.5 && d > 1.0 - 2.5 * soft ? vec3(1.0) : vColour.rgb;
        outColour = vec4(c, 1.0) * alpha * vColour.a * uOpacity;
        if (outColour.a < 0.02) discard;
      }`,
    transparent: true,
    premultipliedAlpha: true,
    depthTest,
    depthWrite: false,
  });
}
