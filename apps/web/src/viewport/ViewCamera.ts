import {
  add,
  boxCentre,
  boxDiagonal,
  cross,
  directionFromPlaced,
  fromPlaced,
  length,
  normalize,
  scale,
  sub,
  dot,
  type Box,
  type Placement,
  type Vec3,
} from '@half-loop/core/math';
import type { PerspectiveCamera } from 'three';
import type { ViewSide } from './ViewState';

const FOV = 32;
/** Of the view's height, what is taken by what it shows at most. */
const FILL = 0.94;
const EDGE_MIDDLES = [-1, 0, 1].flatMap((x) => [-1, 0, 1].flatMap((y) => [-1, 0, 1].map((z) => [x, y, z]))).filter((p) => p.filter((c) => c === 0).length === 1); // prettier-ignore
/** Straight up or down there is no telling how it is turned. */
const STEEP = Math.PI / 2 - 1e-4;
/** An outside that is seen under less than this cosine is turned to. */
const SLANTED = 0.35;
const SIDE_ANGLES: Record<ViewSide, [number, number]> = {
  front: [0, 0],
  back: [Math.PI, 0],
  right: [Math.PI / 2, 0],
  left: [-Math.PI / 2, 0],
  top: [0, STEEP],
  under: [0, -STEEP],
};

/** The eye of the view, in placed space: turns round a target, never rolls. Sizes in pixels of the canvas. */
export class ViewCamera {
  target: Vec3 = [0, 0, 0];
  /** radians; 0 looks from the front, growing to the right side */
  yaw = 0.65;
  pitch = 0.22;
  distance = 10;
  width = 1;
  height = 1;
  private size = 10;

  /** Brings a renderer's camera to where this one is. */
  lead(camera: PerspectiveCamera): void {
    camera.fov = this.fov;
    camera.aspect = this.width / this.height;
    camera.near = this.near;
    camera.far = this.far;
    camera.position.set(...(this.eye as [number, number, number]));
    camera.up.set(...(this.up as [number, number, number]));
    camera.lookAt(...(this.target as [number, number, number]));
    camera.updateProjectionMatrix();
  }

  /** Everything in the box in view. */
  frame(box: Box): void {
    this.target = boxCentre(box);
    this.size = Math.max(boxDiagonal(box), 1e-6);
    const ball = (this.size / 2 / Math.sin((FOV * Math.PI) / 360)) * 0.9;
    this.distance = Math.max(ball, this.farEnough(box));
  }
  /** How far away a box is seen to its ends: a long one reaches beyond what a ball of its size needs. Its corners are mostly empty: the middles of its edges count. */
  private farEnough({ min, max }: Box): number {
    const slope = Math.tan((FOV * Math.PI) / 360) * FILL;
    const half = [0, 1, 2].map((k) => (max[k] - min[k]) / 2);
    let least = 0;
    for (const [x, y, z] of EDGE_MIDDLES) {
      const d: Vec3 = [x * half[0], y * half[1], z * half[2]];
      const off = Math.max(Math.abs(dot(d, this.up)), (Math.abs(dot(d, this.right)) * this.height) / this.width);
      least = Math.max(least, off / slope + dot(d, this.backward));
    }
    return least;
  }
  /** Goes to a part of the whole, as near as shows it with some of what is round it; where an outside is given, to where that is seen. */
  goTo(box: Box, outside: Vec3 | null = null): void {
    if (outside && dot(outside, this.backward) < SLANTED * length(outside)) this.turnTo(outside);
    this.target = boxCentre(box);
    const across = Math.max(boxDiagonal(box) * 1.5, this.size * 0.12);
    this.distance = Math.min(this.size * 20, across / 2 / Math.sin((FOV * Math.PI) / 360));
  }
  private turnTo([x, y, z]: Vec3): void {
    if (Math.hypot(x, z) > 0) this.yaw = Math.atan2(x, z);
    this.pitch = Math.max(-STEEP, Math.min(STEEP, Math.atan2(y, Math.hypot(x, z))));
  }
  look(side: ViewSide): void {
    [this.yaw, this.pitch] = SIDE_ANGLES[side];
  }
  /** The side it looks from exactly, if any. */
  get side(): ViewSide | null {
    const near = (a: number, b: number): boolean => Math.abs(a - b) < 1e-3;
    const hit = Object.entries(SIDE_ANGLES).find(
      ([, [yaw, pitch]]) => near(this.pitch, pitch) && (near(Math.cos(this.yaw - yaw), 1) || Math.abs(pitch) > 1),
    );
    return (hit?.[0] as ViewSide | undefined) ?? null;
  }
  get fov(): number {
    return FOV;
  }
  get near(): number {
    return Math.max(this.distance - this.size * 1.5, this.distance * 0.02);
  }
  get far(): number {
    return this.distance + this.size * 3;
  }
  get eye(): Vec3 {
    return add(this.target, scale(this.backward, this.distance));
  }
  /** unit, from the target to the eye */
  get backward(): Vec3 {
    const c = Math.cos(this.pitch);
    return [Math.sin(this.yaw) * c, Math.sin(this.pitch), Math.cos(this.yaw) * c];
  }
  get right(): Vec3 {
    return [Math.cos(this.yaw), 0, -Math.sin(this.yaw)];
  }
  get up(): Vec3 {
    return cross(this.backward, this.right);
  }
  /** world length of a pixel at a distance along the view */
  pixelSize(along = this.distance): number {
    return (2 * along * Math.tan((FOV * Math.PI) / 360)) / this.height;
  }

  orbit(dx: number, dy: number): void {
    this.yaw -= dx * 0.008;
    this.pitch = Math.max(-STEEP, Math.min(STEEP, this.pitch + dy * 0.008));
  }
  pan(dx: number, dy: number): void {
    const s = this.pixelSize();
    this.target = add(this.target, add(scale(this.right, -dx * s), scale(this.up, dy * s)));
  }
  /** Nearer (factor < 1) or further, what lies under the pixel staying there. */
  zoom(factor: number, x: number, y: number): void {
    const before = this.distance;
    this.distance = Math.max(this.size * 0.01, Math.min(this.size * 20, this.distance * factor));
    const s = this.pixelSize(before) - this.pixelSize(this.distance);
    const dx = x - this.width / 2,
      dy = y - this.height / 2;
    this.target = add(this.target, add(scale(this.right, dx * s), scale(this.up, -dy * s)));
  }

  /** Unit direction from the eye through a pixel. */
  direction(x: number, y: number): Vec3 {
    const s = this.pixelSize(1);
    const u = (x - this.width / 2) * s,
      v = (this.height / 2 - y) * s;
    return normalize(add(add(scale(this.backward, -1), scale(this.right, u)), scale(this.up, v)));
  }
  /** The pixel where a point is seen, and how far along the view it lies. */
  project(p: Vec3): { x: number; y: number; along: number } {
    const d = sub(p, this.eye);
    const along = -dot(d, this.backward);
    const s = this.pixelSize(1) * along;
    return { x: this.width / 2 + dot(d, this.right) / s, y: this.height / 2 - dot(d, this.up) / s, along };
  }

  /** The eye, and right, up and backward, in file space. */
  frameIn(placement: Placement): { eye: Vec3; directions: Vec3[] } {
    return {
      eye: fromPlaced(this.eye, placement),
      directions: [this.right, this.up, this.backward].map((d) => directionFromPlaced(d, placement)),
    };
  }
  /** `project` for many points at once, from an eye and its axes in their space: f32[3] a point. */
  projectAll(positions: ArrayLike<number>, [ex, ey, ez]: Vec3, [r, u, b]: readonly Vec3[]): Float32Array {
    const out = new Float32Array(positions.length);
    const px = this.pixelSize(1);
    for (let i = 0; i < positions.length; i += 3) {
      const x = positions[i] - ex, y = positions[i + 1] - ey, z = positions[i + 2] - ez; // prettier-ignore
      const along = -(x * b[0] + y * b[1] + z * b[2]);
      out[i] = this.width / 2 + (x * r[0] + y * r[1] + z * r[2]) / (px * along);
      out[i + 1] = this.height / 2 - (x * u[0] + y * u[1] + z * u[2]) / (px * along);
      out[i + 2] = along;
    }
    return out;
  }
}
