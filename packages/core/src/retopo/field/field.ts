import { axisIndex, conjugateGradients, type MirrorPlane } from '../../math';
import type { TriMesh } from '../form/TriMesh';
import type { RidgeChain } from '../lines/ridgeChains';
import { followBends, followLoops, followRidges } from './fieldWishes';
import type { LoopsThere } from './loopsThere';

/** A cross per triangle: four directions at right angles, along which quads will run. */
export interface CrossField {
  /** per half-edge its direction in its triangle's plane, from that of the triangle's first edge, radians */
  direction: Float64Array;
  /** per half-edge: what a direction in its triangle gains when carried to the one across */
  carry: Float64Array;
  /** per triangle: one of the cross's directions, radians from the first edge */
  angle: Float64Array;
  /** per half-edge: the quarters that the cross across is turned by, the other side's with its sign changed */
  quarter: Int8Array;
  /** per vertex: 2π less the angles round it; on borders π less them */
  defect: Float64Array;
  /** per triangle how strongly its cross is held by lines and by the form, over smoothness */
  held: Float64Array;
}

export interface FieldOptions {
  /** wanted edge length of the quads over that of the triangles */
  ratio: number;
  /** wanted edge length of the quads, file units */
  size: number;
  /** 0: smoothest, 1: as usual; how much crosses turn along the form's bends */
  followForm: number;
  /** per vertex the wanted size of quads over the usual one; null: alike */
  sizes: Float64Array | null;
  /** which way loops run that are there already, and shall go on; null: there are none */
  loops: LoopsThere | null;
  /** along which loops should run */
  ridges: readonly RidgeChain[];
}

/** Weight of edges that must be followed, over that of smoothness. */
const LINE = 20;
/** Smoothness across a line, over that elsewhere. */
const ACROSS = 0.02;
const SMOOTHED = 10;
/** Where sizes differ crosses must turn for it: bends count so much of what they do elsewhere. */
const IN_DENSITY = 0.25;

/**
 * The smoothest crosses that follow the mesh's lines and, where it bends one way more than the other, the bend: crosses as fourth powers of unit
 * complex numbers, one linear solve, then diffusing and normalising (Knöppel et al. 2013; Viertel and Osting 2019). Worked out on a smoothed copy
 * (Taubin 1995): crinkles would force poles. Where sizes differ, lengths are measured by them: crosses then turn, and poles come to stand, so that quads can grow from place to
 * place. The mesh must be compact. Cost: some hundred passes over the triangles.
 */
export function crossField(mesh: TriMesh, { ratio, size, followForm, sizes, loops, ridges }: FieldOptions): CrossField {
  const smooth = smoothed(mesh, SMOOTHED);
  const { direction, carry, defect } = anglesOf(mesh, smooth, sizes);
  const n = mesh.triangles;
  const system = new CrossSystem(mesh, carry);
  const wanted = new Float64Array(2 * n);
  const weight = new Float64Array(n);
  if (followForm > 0) followBends(mesh, smooth, size, followForm * (sizes ? IN_DENSITY : 1), wanted, weight);
  if (loops) followLoops(mesh, smooth, loops, wanted, weight);
  followRidges(mesh, direction, ridges, wanted, weight);
  for (let h = 0; h < 3 * n; h++) {
    if (mesh.line[h] < 0) continue;
    const t = Math.floor(h / 3);
    if (weight[t] < LINE) {
      weight[t] = 0;
      wanted[2 * t] = wanted[2 * t + 1] = 0;
    }
    wanted[2 * t] += LINE * Math.cos(4 * direction[h]);
    wanted[2 * t + 1] += LINE * Math.sin(4 * direction[h]);
    weight[t] += LINE;
  }
  const z = new Float64Array(2 * n);
  // where nothing tells a direction, the start must not matter
  for (let t = 0; t < n; t++) z[2 * t] = 1e-3;
  const rhs = Float64Array.from(wanted, (x, i) => x + 1e-6 * z[i]);
  system.solve(1e-6, 1, weight, rhs, z, 400);
  normalise(z);
  for (let step = 0; step < 12; step++) {
    const tau = step < 6 ? Math.max(10, 5 * ratio * ratio) : Math.max(4, ratio * ratio);
    const goal = Float64Array.from(z, (x, i) => x + tau * wanted[i]);
    system.solve(1, tau, weight, goal, z, 60);
    normalise(z);
  }
  const angle = new Float64Array(n);
  for (let t = 0; t < n; t++) angle[t] = Math.atan2(z[2 * t + 1], z[2 * t]) / 4;
  return { direction, carry, angle, defect, held: weight, quarter: quartersOf(mesh, { carry, angle }) };
}

function normalise(z: Float64Array): void {
  for (let i = 0; i < z.length; i += 2) {
    const l = Math.sqrt(z[i] * z[i] + z[i + 1] * z[i + 1]);
    if (l > 1e-12) {
      z[i] /= l;
      z[i + 1] /= l;
    } else {
      z[i] = 1;
      z[i + 1] = 0;
    }
  }
}

/**
 * Points with crinkles taken out and the volume kept (Taubin 1995); those on lines and borders stay, but for a border in a mirror plane, whose points move in it as
 * those of the whole form would. Cost: the rounds times the points.
 */
export function smoothed(mesh: TriMesh, rounds: number, plane: MirrorPlane | null = null): Float64Array {
  let p = mesh.points.slice(0, 3 * mesh.vertices);
  const across = plane ? axisIndex(plane.axis) : -1;
  const isOnPlane = (v: number): boolean => plane !== null && mesh.points[3 * v + across] === plane.offset;
  const fixed = new Uint8Array(mesh.vertices);
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    const [u, v] = [mesh.from[h], mesh.to(h)];
    const isMirrored = mesh.twin[h] < 0 && isOnPlane(u) && isOnPlane(v);
    if ((mesh.line[h] >= 0 || mesh.twin[h] < 0) && !isMirrored) fixed[u] = fixed[v] = 1;
  }
  const rings = Array.from({ length: mesh.vertices }, (_, v) => mesh.ring(v));
  // the other half's neighbours count as much as those off the plane do
  const weight = (v: number, w: number): number => (isOnPlane(v) && !isOnPlane(w) ? 2 : 1);
  for (let i = 0; i < 2 * rounds; i++) {
    const by = i % 2 === 0 ? 0.5 : -0.53;
    const q = p.slice();
    for (let v = 0; v < mesh.vertices; v++) {
      if (fixed[v]) continue;
      const ring = rings[v];
      const all = isOnPlane(v) ? ring.reduce((sum, w) => sum + weight(v, w), 0) : ring.length;
      for (let k = 0; k < 3; k++) {
        if (k === across && isOnPlane(v)) continue;
        let sum = 0;
        for (const w of ring) sum += weight(v, w) * p[3 * w + k];
        q[3 * v + k] += by * (sum / all - p[3 * v + k]);
      }
    }
    p = q;
  }
  return p;
}

function anglesOf(
  mesh: TriMesh,
  p: Float64Array,
  sizes: Float64Array | null,
): Pick<CrossField, 'direction' | 'carry' | 'defect'> {
  const halves = 3 * mesh.triangles;
  const direction = new Float64Array(halves);
  const carry = new Float64Array(halves);
  const defect = new Float64Array(mesh.vertices);
  for (let v = 0; v < mesh.vertices; v++) defect[v] = mesh.isBorder(v) ? Math.PI : 2 * Math.PI;
  for (let t = 0; t < halves; t += 3) {
    const inner = [0, 1, 2].map((k) => cornerAngle(p, mesh.from[t + k], mesh.from[t + ((k + 1) % 3)], mesh.from[t + ((k + 2) % 3)], sizes)); // prettier-ignore
    direction[t + 1] = Math.PI - inner[1];
    direction[t + 2] = direction[t + 1] + Math.PI - inner[2];
    for (let k = 0; k < 3; k++) defect[mesh.from[t + k]] -= inner[k];
  }
  for (let h = 0; h < halves; h++) if (mesh.twin[h] >= 0) carry[h] = direction[mesh.twin[h]] + Math.PI - direction[h];
  return { direction, carry, defect };
}

/** The angle at corner a of a triangle; with sizes, of one whose sides are measured by them. */
export function cornerAngle(p: Float64Array, a: number, b: number, c: number, sizes: Float64Array | null): number {
  if (sizes) {
    const side = (i: number, j: number): number =>
      (2 * Math.hypot(p[3 * i] - p[3 * j], p[3 * i + 1] - p[3 * j + 1], p[3 * i + 2] - p[3 * j + 2])) / (sizes[i] + sizes[j]); // prettier-ignore
    const [l, m, n] = [side(a, b), side(a, c), side(b, c)];
    return Math.acos(Math.min(1, Math.max(-1, (l * l + m * m - n * n) / (2 * l * m || 1))));
  }
  const ux = p[3 * b] - p[3 * a], uy = p[3 * b + 1] - p[3 * a + 1], uz = p[3 * b + 2] - p[3 * a + 2]; // prettier-ignore
  const vx = p[3 * c] - p[3 * a], vy = p[3 * c + 1] - p[3 * a + 1], vz = p[3 * c + 2] - p[3 * a + 2]; // prettier-ignore
  const x = uy * vz - uz * vy, y = uz * vx - ux * vz, z = ux * vy - uy * vx; // prettier-ignore
  return Math.atan2(Math.sqrt(x * x + y * y + z * z), ux * vx + uy * vy + uz * vz);
}

/** Σ w |z_g − e^{4i·carry} z_f|² over the edges, solved by conjugate gradients. */
class CrossSystem {
  private readonly edges: Int32Array;
  private readonly turn: Float64Array;
  private readonly weight: Float64Array;
  private readonly n: number;

  constructor(mesh: TriMesh, carry: Float64Array) {
    this.n = mesh.triangles;
    const edges: number[] = [];
    const turn: number[] = [];
    const weight: number[] = [];
    for (let h = 0; h < 3 * this.n; h++) {
      if (mesh.twin[h] < h) continue;
      edges.push(Math.floor(h / 3), Math.floor(mesh.twin[h] / 3));
      turn.push(Math.cos(4 * carry[h]), Math.sin(4 * carry[h]));
      weight.push(mesh.line[h] >= 0 ? ACROSS : 1);
    }
    this.edges = Int32Array.from(edges);
    this.turn = Float64Array.from(turn);
    this.weight = Float64Array.from(weight);
  }

  /** (mass + τ·Laplacian + τ·anchors) z = rhs, from the z given. */
  solve(mass: number, tau: number, anchors: Float64Array, rhs: Float64Array, z: Float64Array, most: number): void {
    const diagonal = new Float64Array(this.n).map((_, t) => mass + tau * anchors[t]);
    for (let e = 0; e < this.weight.length; e++) {
      diagonal[this.edges[2 * e]] += tau * this.weight[e];
      diagonal[this.edges[2 * e + 1]] += tau * this.weight[e];
    }
    const r = new Float64Array(2 * this.n);
    this.times(diagonal, tau, z, r);
    for (let i = 0; i < r.length; i++) r[i] = rhs[i] - r[i];
    const times = (x: Float64Array, into: Float64Array): void => this.times(diagonal, tau, x, into);
    const nearly = (x: Float64Array, into: Float64Array): void => {
      for (let i = 0; i < x.length; i++) into[i] = x[i] / diagonal[i >> 1];
    };
    conjugateGradients({ times, nearly }, z, r, 1e-8, most);
  }

  private times(diagonal: Float64Array, tau: number, x: Float64Array, y: Float64Array): void {
    for (let i = 0; i < y.length; i++) y[i] = diagonal[i >> 1] * x[i];
    const { edges, turn, weight } = this;
    for (let e = 0; e < weight.length; e++) {
      const f = 2 * edges[2 * e],
        g = 2 * edges[2 * e + 1];
      const c = turn[2 * e],
        s = turn[2 * e + 1],
        w = tau * weight[e];
      y[g] -= w * (c * x[f] - s * x[f + 1]);
      y[g + 1] -= w * (s * x[f] + c * x[f + 1]);
      y[f] -= w * (c * x[g] + s * x[g + 1]);
      y[f + 1] -= w * (c * x[g + 1] - s * x[g]);
    }
  }
}

/**
 * Signed index of the field at each vertex in quarters: 1 for a pole of three, −1 for one of five. Zero on borders. Cost: linear.
 */
export function indicesOf(mesh: TriMesh, field: CrossField): Int8Array {
  const found = new Int8Array(mesh.vertices);
  for (let v = 0; v < mesh.vertices; v++) if (!mesh.isBorder(v)) found[v] = turnsAt(mesh, field, v);
  return found;
}

/** Quarters that the field's quads are short of all round a vertex; on a border, of going straight on. Cost: its edges. */
export function turnsAt(mesh: TriMesh, field: CrossField, v: number): number {
  let turn = field.defect[v];
  // going round counter-clockwise, each edge out of v is crossed from the triangle on its right
  for (const h of mesh.fan(v)) {
    const g = mesh.twin[h];
    if (g >= 0) turn += rise(mesh, field, g) - (field.quarter[g] * Math.PI) / 2;
  }
  return Math.round((2 * turn) / Math.PI);
}

type Turned = Pick<CrossField, 'angle' | 'carry'>;

/** Per half-edge how far the cross across is turned against the one on its side, carried there, to the nearest quarter. */
export function quartersOf(mesh: TriMesh, field: Turned): Int8Array {
  const quarter = new Int8Array(3 * mesh.triangles);
  for (let h = 0; h < quarter.length; h++) {
    if (mesh.twin[h] < h) continue;
    quarter[h] = Math.round((2 * rise(mesh, field, h)) / Math.PI);
    quarter[mesh.twin[h]] = -quarter[h];
  }
  return quarter;
}

/** How far the cross across is turned; one side's figure is the other's with its sign changed, to the last bit. */
export function rise(mesh: TriMesh, { angle, carry }: Turned, h: number): number {
  const g = mesh.twin[h];
  if (h > g) return -rise(mesh, { angle, carry }, g);
  return angle[Math.floor(g / 3)] - angle[Math.floor(h / 3)] - carry[h];
}
