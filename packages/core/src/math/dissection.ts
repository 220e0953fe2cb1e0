/** Sets no larger than this are not cut up any further. */
const LEAF = 48;

/**
 * An order of a graph's nodes for elimination: cut in two, the nodes between both last, and so on within (George 1973). Each set is cut by place along its longest side, or
 * half-way along the steps from one of its ends, whichever leaves fewer nodes between: a coil is cut across, not through all its turns. `neighbours(v)` lists a node's
 * neighbours. Cost: n log n.
 */
export function dissected(
  places: ArrayLike<number>,
  n: number,
  neighbours: (v: number) => readonly number[],
): Int32Array {
  const graph = graphOf(n, neighbours);
  const order = new Int32Array(n);
  let end = n;
  const stack: Int32Array[] = [Int32Array.from({ length: n }, (_, v) => v)];
  while (stack.length > 0) {
    const own = stack.pop() as Int32Array;
    if (own.length <= LEAF) {
      for (const v of own) order[--end] = v;
      continue;
    }
    const ways = [byPlace(places, own), graph.bySteps(own)].map((way) => ({ way, between: graph.between(way) }));
    const { way, between } = ways[0].between.length <= ways[1].between.length ? ways[0] : ways[1];
    for (const v of between) order[--end] = v;
    const last = new Set(between);
    const half = way.length >> 1;
    stack.push(
      way.subarray(0, half).filter((v) => !last.has(v)),
      way.slice(half),
    );
  }
  return order;
}

/** A graph, its nodes marked with the set that is looked at. */
class Graph {
  private readonly mark: Int32Array;
  private marks = 0;

  constructor(
    private readonly starts: Int32Array,
    private readonly to: Int32Array,
  ) {
    this.mark = new Int32Array(starts.length - 1).fill(-1);
  }

  /** The nodes of a set's first half that have neighbours in the other. */
  between(own: Int32Array): number[] {
    const { starts, to, mark } = this;
    const other = this.marks++;
    const half = own.length >> 1;
    for (let i = half; i < own.length; i++) mark[own[i]] = other;
    const found: number[] = [];
    for (let i = 0; i < half; i++) {
      const v = own[i];
      for (let x = starts[v]; x < starts[v + 1]; x++)
        if (mark[to[x]] === other) {
          found.push(v);
          break;
        }
    }
    return found;
  }

  /** A set by steps from one of its ends; what does not hang together with that end comes after. */
  bySteps(own: Int32Array): Int32Array {
    const some = this.walked(own, own[0]);
    return this.walked(own, some[some.length - 1]);
  }

  private walked(own: Int32Array, from: number): Int32Array {
    const { starts, to, mark } = this;
    const [inside, done] = [this.marks, this.marks + 1];
    this.marks += 2;
    for (const v of own) mark[v] = inside;
    const found = new Int32Array(own.length);
    let n = 0;
    const take = (v: number): void => {
      mark[v] = done;
      found[n++] = v;
    };
    take(from);
    for (let i = 0, next = 0; i < found.length; i++) {
      // a part of its own
      if (i === n) {
        while (mark[own[next]] === done) next++;
        take(own[next]);
      }
      const v = found[i];
      for (let x = starts[v]; x < starts[v + 1]; x++) if (mark[to[x]] === inside) take(to[x]);
    }
    return found;
  }
}

function graphOf(n: number, neighbours: (v: number) => readonly number[]): Graph {
  const starts = new Int32Array(n + 1);
  const to: number[] = [];
  for (let v = 0; v < n; v++) {
    for (const w of neighbours(v)) to.push(w);
    starts[v + 1] = to.length;
  }
  return new Graph(starts, Int32Array.from(to));
}

/** A set sorted along its longest side. */
function byPlace(places: ArrayLike<number>, own: Int32Array): Int32Array {
  const k = longestSide(places, own);
  return own.slice().sort((a, b) => places[3 * a + k] - places[3 * b + k]);
}

function longestSide(places: ArrayLike<number>, own: Int32Array): number {
  const lo = [Infinity, Infinity, Infinity],
    hi = [-Infinity, -Infinity, -Infinity];
  for (const v of own)
    for (let k = 0; k < 3; k++) {
      const x = places[3 * v + k];
      if (x < lo[k]) lo[k] = x;
      if (x > hi[k]) hi[k] = x;
    }
  const spread = hi.map((x, k) => x - lo[k]);
  return spread.indexOf(Math.max(...spread));
}
