import { dot, normalize, type Vec3 } from '../math';
import { projector, type RasterCamera } from './camera';

export type Rgb = readonly [number, number, number];

/** Triangles to draw, in placed space. */
export interface SolidLayer {
  positions: ArrayLike<number>;
  indices: ArrayLike<number>;
  normals: ArrayLike<number>;
  colour: Rgb;
  /** drawn as if this much nearer, so that a surface lying on another wins */
  lift?: number;
}
/** Segments to draw over what they lie on, in placed space: xyz xyz a segment. */
export interface LineLayer {
  segments: ArrayLike<number>;
  colour: Rgb;
  lift: number;
}
/** A filled polygon of equal sides that faces the viewer, a corner up, in placed space. */
export interface Mark {
  at: Vec3;
  sides: number;
  /** from its middle to its corners, pixels */
  radius: number;
  colour: Rgb;
  lift: number;
}

export interface Picture {
  width: number;
  height: number;
  /** u8[4·width·height] rgba */
  data: Uint8Array;
}

export interface SceneOptions {
  width: number;
  height: number;
  camera: RasterCamera;
  solids: SolidLayer[];
  lines?: LineLayer[];
  marks?: Mark[];
  background: { top: Rgb; bottom: Rgb };
}

const SUPERSAMPLE = 2;

/**
 * A small software rasteriser: depth buffer, two lights, blended normals, lines, marks; drawn at double size and averaged. For
 * thumbnails and pictures in reports, where there is no GPU. About 0.2 s for 150,000 triangles at 480 × 320.
 */
export function rasterize({
  width,
  height,
  camera,
  solids,
  lines = [],
  marks = [],
  background,
}: SceneOptions): Picture {
  const w = width * SUPERSAMPLE,
    h = height * SUPERSAMPLE;
  const canvas = new Canvas(w, h, background);
  const view = projector(camera, w, h);
  for (const solid of solids) drawSolid(canvas, view.project, view, solid);
  for (const { segments: s, colour, lift } of lines)
    for (let i = 0; i < s.length; i += 6)
      canvas.line(view.project([s[i], s[i + 1], s[i + 2]]), view.project([s[i + 3], s[i + 4], s[i + 5]]), colour, lift);
  for (const mark of marks) canvas.mark(view.project(mark.at), mark);
  return canvas.shrink(SUPERSAMPLE);
}

function drawSolid(
  canvas: Canvas,
  project: (p: Vec3) => Vec3,
  view: { right: Vec3; up: Vec3; forward: Vec3 },
  solid: SolidLayer,
): void {
  const { positions: p, normals: n, indices, colour, lift = 0 } = solid;
  const toLight = (x: number, y: number, z: number): Vec3 =>
    normalize([0, 1, 2].map((k) => view.right[k] * x + view.up[k] * y - view.forward[k] * z) as unknown as Vec3);
  const key = toLight(-0.5, 0.75, 0.65),
    fill = toLight(0.8, -0.1, 0.4);
  const screen = new Float64Array(p.length);
  const shade = new Float64Array(p.length / 3);
  for (let v = 0; v < shade.length; v++) {
    screen.set(project([p[3 * v], p[3 * v + 1], p[3 * v + 2]]), 3 * v);
    const normal: Vec3 = [n[3 * v], n[3 * v + 1], n[3 * v + 2]];
    shade[v] = 0.36 + 0.74 * Math.max(0, dot(normal, key)) + 0.2 * Math.max(0, dot(normal, fill));
  }
  for (let i = 0; i < indices.length; i += 3)
    canvas.triangle(screen, shade, indices[i], indices[i + 1], indices[i + 2], colour, lift);
}

/** Colour and depth of every pixel. */
class Canvas {
  private readonly colour: Float32Array;
  private readonly depth: Float32Array;

  constructor(
    readonly width: number,
    readonly height: number,
    { top, bottom }: SceneOptions['background'],
  ) {
    this.colour = new Float32Array(3 * width * height);
    this.depth = new Float32Array(width * height).fill(Infinity);
    for (let y = 0; y < height; y++) {
      const t = y / Math.max(1, height - 1);
      for (let x = 0; x < width; x++)
        for (let k = 0; k < 3; k++) this.colour[3 * (y * width + x) + k] = top[k] + (bottom[k] - top[k]) * t;
    }
  }

  triangle(s: Float64Array, shade: Float64Array, a: number, b: number, c: number, rgb: Rgb, lift: number): void {
    const ax = s[3 * a], ay = s[3 * a + 1], bx = s[3 * b], by = s[3 * b + 1], cx = s[3 * c], cy = s[3 * c + 1]; // prettier-ignore
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area >= 0 || s[3 * a + 2] <= 0 || s[3 * b + 2] <= 0 || s[3 * c + 2] <= 0) return;
    const x0 = Math.max(0, Math.ceil(Math.min(ax, bx, cx))), x1 = Math.min(this.width - 1, Math.floor(Math.max(ax, bx, cx))); // prettier-ignore
    const y0 = Math.max(0, Math.ceil(Math.min(ay, by, cy))), y1 = Math.min(this.height - 1, Math.floor(Math.max(ay, by, cy))); // prettier-ignore
    for (let y = y0; y <= y1; y++)
      for (let x = x0; x <= x1; x++) {
        const u = ((bx - x) * (cy - y) - (by - y) * (cx - x)) / area;
        const v = ((cx - x) * (ay - y) - (cy - y) * (ax - x)) / area;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const z = u * s[3 * a + 2] + v * s[3 * b + 2] + w * s[3 * c + 2] - lift;
        this.plot(x, y, z, rgb, u * shade[a] + v * shade[b] + w * shade[c]);
      }
  }

  line(p: Vec3, q: Vec3, rgb: Rgb, lift: number): void {
    if (p[2] <= 0 || q[2] <= 0) return;
    const steps = Math.ceil(Math.max(Math.abs(q[0] - p[0]), Math.abs(q[1] - p[1]), 1));
    if (steps > 4 * (this.width + this.height)) return;
    for (let i = 0; i <= steps; i++) {
      const t = i / steps;
      const x = Math.round(p[0] + (q[0] - p[0]) * t),
        y = Math.round(p[1] + (q[1] - p[1]) * t);
      const z = p[2] + (q[2] - p[2]) * t - lift;
      for (const [dx, dy] of [
        [0, 0],
        [1, 0],
        [0, 1],
      ])
        // prettier-ignore
        if (x + dx >= 0 && x + dx < this.width && y + dy >= 0 && y + dy < this.height) this.plot(x + dx, y + dy, z, rgb, 1);
    }
  }

  mark([px, py, pz]: Vec3, { sides, radius, colour, lift }: Mark): void {
    if (pz <= 0) return;
    const reach = SUPERSAMPLE * radius;
    const corner = (2 * Math.PI) / sides;
    for (let y = Math.max(0, Math.ceil(py - reach)); y <= Math.min(this.height - 1, py + reach); y++)
      for (let x = Math.max(0, Math.ceil(px - reach)); x <= Math.min(this.width - 1, px + reach); x++) {
        const round = Math.atan2(x - px, py - y) + 2 * Math.PI;
        const fromSide = (round % corner) - corner / 2;
        const out = Math.hypot(x - px, y - py) * Math.cos(fromSide);
        if (out <= reach * Math.cos(corner / 2)) this.plot(x, y, pz - lift, colour, 1);
      }
  }

  private plot(x: number, y: number, z: number, rgb: Rgb, shade: number): void {
    const i = y * this.width + x;
    if (z >= this.depth[i]) return;
    this.depth[i] = z;
    for (let k = 0; k < 3; k++) this.colour[3 * i + k] = Math.min(255, rgb[k] * shade);
  }

  shrink(by: number): Picture {
    const width = this.width / by,
      height = this.height / by;
    const data = new Uint8Array(4 * width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        for (let k = 0; k < 3; k++) {
          let sum = 0;
          for (let j = 0; j < by * by; j++)
            sum += this.colour[3 * ((y * by + Math.floor(j / by)) * this.width + x * by + (j % by)) + k];
          data[4 * (y * width + x) + k] = Math.round(sum / (by * by));
        }
        data[4 * (y * width + x) + 3] = 255;
      }
    return { width, height, data };
  }
}
