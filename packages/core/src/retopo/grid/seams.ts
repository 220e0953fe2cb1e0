import type { CrossField } from '../field/field';
import { prevHalf, type TriMesh } from '../form/TriMesh';
import { accumulate, GaussSums, solveWhole, turned, type GaussSum } from './gauss';

/**
 * A part cut open so that its crosses can be turned to agree everywhere but across the cuts, and what the quads' grid must do there: p on the
 * far side of h is i^−quarter[h]·p + a whole step. Each corner of a triangle belongs to a `wedge`, the corners round its vertex that
 * no cut parts; a wedge's place in the grid is i^turn·(its vertex's place) + whole steps.
 */
export interface Seams {
  /** per vertex the quarters that crosses turn round it, 0 where there is no pole */
  index: Int8Array;
  /** per triangle the direction of the grid's first axis, radians from its first edge */
  angle: Float64Array;
  /** per half-edge how many quarters the grid turns across it */
  quarter: Int8Array;
  /** half-edge (the corner it leaves) → wedge */
  wedge: Int32Array;
  /** wedge → its vertex, or −1 where the place is whole steps alone: at poles */
  vertex: Int32Array;
  turn: Int8Array;
  /** wedge → its steps over the free whole numbers */
  steps: GaussSums;
  /** half-edge → the steps across it over the free whole numbers; none where it is no cut */
  across: Map<number, GaussSum>;
  /** how many free Gaussian whole numbers there are */
  free: number;
}

/** The place of each wedge, f64[2·wedges], by the reals at its vertex and the free whole numbers. `unknown` is the real's of each vertex, −1 at poles. */
export function placesOf(seams: Seams, unknown: Int32Array, x: Float64Array, z: Int32Array): Float64Array {
  const places = new Float64Array(2 * seams.vertex.length);
  for (let wedge = 0; wedge < seams.vertex.length; wedge++) {
    seams.steps.valueInto(wedge, z, places, 2 * wedge);
    const v = seams.vertex[wedge];
    if (v < 0) continue;
    const i = 2 * unknown[v];
    const [u, w] = turned([x[i], x[i + 1]], seams.turn[wedge]);
    places[2 * wedge] += u;
    places[2 * wedge + 1] += w;
  }
  return places;
}

/** Cost: linear, and the cuts' equations. Throws NO_WAY where the whole steps have no solution. */
export function seamsOf(mesh: TriMesh, field: CrossField, index: Int8Array): Seams {
  const quarter = field.quarter.slice();
  const { angle, tree } = combed(mesh, field, quarter);
  const cut = prunedCuts(mesh, tree, index);
  const { chainOf, reversed, chains } = chainsOf(mesh, cut, index);
  return new Wedges(mesh, quarter, cut, index, chainOf, reversed, chains).result(angle);
}

/** Crosses turned by quarters so that they agree along a tree of triangles. `quarter` is brought up to date, both ways of each edge. */
function combed(mesh: TriMesh, field: CrossField, quarter: Int8Array): { angle: Float64Array; tree: Uint8Array } {
  const n = mesh.triangles;
  const turn = new Int32Array(n);
  const seen = new Uint8Array(n);
  const tree = new Uint8Array(3 * n);
  const raw = quarter.slice();
  // breadth first from one triangle: cuts come out short
  for (let seed = 0; seed < n; seed++) {
    if (seen[seed]) continue;
    seen[seed] = 1;
    const queue = [seed];
    for (const t of queue)
      for (let h = 3 * t; h < 3 * t + 3; h++) {
        const g = mesh.twin[h];
        const s = Math.floor(g / 3);
        if (g < 0 || seen[s]) continue;
        seen[s] = 1;
        tree[h] = tree[g] = 1;
        turn[s] = turn[t] - raw[h];
        queue.push(s);
      }
  }
  for (let h = 0; h < 3 * n; h++)
    if (mesh.twin[h] >= 0) quarter[h] = (raw[h] + turn[Math.floor(mesh.twin[h] / 3)] - turn[Math.floor(h / 3)]) & 3;
  const angle = field.angle.map((a, t) => a + (turn[t] * Math.PI) / 2);
  return { angle, tree };
}

/** Edges that the tree does not cross, without the twigs that end at nothing. */
function prunedCuts(mesh: TriMesh, tree: Uint8Array, index: Int8Array): Uint8Array {
  const cut = new Uint8Array(tree.length);
  const degree = new Int32Array(mesh.vertices);
  for (let h = 0; h < tree.length; h++)
    if (mesh.twin[h] >= 0 && !tree[h]) {
      cut[h] = 1;
      degree[mesh.from[h]]++;
    }
  const isLeaf = (v: number): boolean => degree[v] === 1 && index[v] === 0 && !mesh.isBorder(v);
  const queue: number[] = [];
  for (let v = 0; v < mesh.vertices; v++) if (isLeaf(v)) queue.push(v);
  for (const v of queue) {
    if (!isLeaf(v)) continue;
    const h = mesh.fan(v).find((x) => cut[x] === 1) as number;
    cut[h] = cut[mesh.twin[h]] = 0;
    degree[v]--;
    const w = mesh.to(h);
    degree[w]--;
    if (isLeaf(w)) queue.push(w);
  }
  return cut;
}

/** Numbers runs of cuts between the places where they meet, end or a pole lies; `reversed` half-edges run against their chain. */
function chainsOf(
  mesh: TriMesh,
  cut: Uint8Array,
  index: Int8Array,
): { chainOf: Int32Array; reversed: Uint8Array; chains: number } {
  const chainOf = new Int32Array(cut.length).fill(-1);
  const reversed = new Uint8Array(cut.length);
  const leaving = (v: number): number[] => mesh.fan(v).filter((h) => cut[h] === 1);
  const isNode = (v: number): boolean => index[v] !== 0 || mesh.isBorder(v) || leaving(v).length !== 2;
  let chains = 0;
  const walk = (first: number): void => {
    const chain = chains++;
    for (let h = first; ;) {
      const g = mesh.twin[h];
      chainOf[h] = chainOf[g] = chain;
      reversed[g] = 1;
      const v = mesh.to(h);
      if (isNode(v)) return;
      const on = leaving(v).find((x) => x !== g) as number;
      if (chainOf[on] >= 0) return;
      h = on;
    }
  };
  for (let h = 0; h < cut.length; h++) if (cut[h] && chainOf[h] < 0 && isNode(mesh.from[h])) walk(h);
  for (let h = 0; h < cut.length; h++) if (cut[h] && chainOf[h] < 0) walk(h);
  return { chainOf, reversed, chains };
}

/** Numbers the wedges and gathers what the steps across the cuts must fulfil. Symbols: one a chain, then one a pole. */
class Wedges {
  private readonly wedge: Int32Array;
  private readonly vertex: number[] = [];
  private readonly turn: number[] = [];
  private readonly steps: GaussSum[] = [];
  private readonly equations: GaussSum[] = [];
  private poles = 0;

  constructor(
    private readonly mesh: TriMesh,
    private readonly quarter: Int8Array,
    private readonly cut: Uint8Array,
    private readonly index: Int8Array,
    private readonly chainOf: Int32Array,
    private readonly reversed: Uint8Array,
    private readonly chains: number,
  ) {
    this.wedge = new Int32Array(3 * mesh.triangles);
    for (let v = 0; v < mesh.vertices; v++) this.goRound(v, index[v] !== 0);
  }

  /** The step across a half-edge over the chains' symbols: T, or −i^r·T against the chain, r being the chain's own turn. */
  private stepAcross(h: number): GaussSum {
    const chain = this.chainOf[h];
    if (!this.reversed[h]) return new Map([[chain, [1, 0]]]);
    const [x, y] = turned([-1, 0], this.quarter[this.mesh.twin[h]]);
    return new Map([[chain, [x, y]]]);
  }

  private goRound(v: number, isPole: boolean): void {
    const { mesh, cut, quarter } = this;
    let fan = mesh.fan(v);
    // begin at a cut, so that no wedge is entered twice
    const start = mesh.isBorder(v) ? 0 : fan.findIndex((h) => cut[h] === 1);
    if (start > 0) fan = [...fan.slice(start), ...fan.slice(0, start)];
    const symbol = this.chains + this.poles;
    if (isPole) this.poles++;
    let turn = 0;
    let steps: GaussSum = isPole ? new Map([[symbol, [1, 0]]]) : new Map();
    const cross = (h: number): void => {
      const next: GaussSum = new Map();
      accumulate(next, steps, turned([1, 0], -quarter[h]));
      accumulate(next, this.stepAcross(h), [1, 0]);
      turn = (turn - quarter[h]) & 3;
      steps = next;
    };
    const open = (): void => {
      this.vertex.push(isPole ? -1 : v);
      this.turn.push(turn);
      this.steps.push(steps);
    };
    open();
    fan.forEach((h, i) => {
      this.wedge[h] = this.vertex.length - 1;
      const last = prevHalf(h);
      if (mesh.twin[last] < 0 || cut[last] === 0) return;
      cross(last);
      if (i < fan.length - 1) open();
    });
    if (mesh.isBorder(v) || start < 0) return;
    // back at the start, the place must be what it was
    if (!isPole && turn !== 0) throw new Error('a regular vertex turns the grid');
    const equation: GaussSum = new Map(steps);
    if (isPole) accumulate(equation, new Map([[symbol, [1, 0]]]), [-1, 0]);
    if (equation.size > 0) this.equations.push(equation);
  }

  result(angle: Float64Array): Seams {
    const { chains, poles, mesh } = this;
    const solution = solveWhole(this.equations, chains + poles, chains);
    const spelled = (sum: GaussSum): GaussSum => {
      const made: GaussSum = new Map();
      for (const [s, c] of sum) accumulate(made, solution.of[s], c);
      return made;
    };
    const across = new Map<number, GaussSum>();
    for (let h = 0; h < 3 * mesh.triangles; h++) if (this.cut[h]) across.set(h, spelled(this.stepAcross(h)));
    return {
      index: this.index,
      angle,
      quarter: this.quarter,
      wedge: this.wedge,
      vertex: Int32Array.from(this.vertex),
      turn: Int8Array.from(this.turn),
      steps: new GaussSums(this.steps.map(spelled)),
      across,
      free: solution.free.length,
    };
  }
}
