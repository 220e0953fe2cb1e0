/** Columns are taken together with those before them as long as no more than this share of their numbers is zero for that. */
const PADDED = 0.05;
/** Few columns are taken together whatever that costs: handling each by itself costs more. */
const FEW = 8;
/** No group has more columns: the upper half of the square on its top is wasted. */
const MOST = 64;
const NONE = -1;

/** Which entries a symmetric matrix has, by columns of its upper triangle. */
export interface Pattern {
  /** column → its first entry */
  starts: Int32Array;
  /** entry → its row, at most the column's number */
  rows: Int32Array;
}

/** The columns of a triangular factor in groups that follow each other and have nearly the same rows: each group is one dense block. */
export interface Supernodes {
  /** column as it came → its number once every group's columns follow each other */
  to: Int32Array;
  /** group → its first column; one more at the end */
  firsts: Int32Array;
  /** group → where its rows start; one more at the end */
  starts: Int32Array;
  /** the rows of each group, its own columns first, ascending */
  rows: Int32Array;
  /** group → the one that its first row beyond its own columns belongs to, −1 where it has none: children come before parents */
  parent: Int32Array;
}

/**
 * Groups the columns that a symmetric matrix's factor has (Liu, Ng and Peyton 1993; taken together somewhat more freely after Ashcraft and Grimes 1989). Columns are renumbered along the elimination
 * tree, which leaves their fill as it is. Cost: the factor's entries, once.
 */
export function supernodesOf(pattern: Pattern): Supernodes {
  const { parent, below } = treeOf(pattern);
  const to = postordered(parent);
  const n = to.length;
  const up = new Int32Array(n).fill(NONE);
  const long = new Int32Array(n);
  for (let j = 0; j < n; j++) {
    if (parent[j] !== NONE) up[to[j]] = to[parent[j]];
    long[to[j]] = below[j] + 1;
  }
  const firsts = grouped(up, long);
  return { to, firsts, ...rowsOf(pattern, to, up, firsts) };
}

/** The elimination tree, and how many rows each column of the factor has below its own. */
function treeOf({ starts, rows }: Pattern): { parent: Int32Array; below: Int32Array } {
  const n = starts.length - 1;
  const parent = new Int32Array(n).fill(NONE);
  const flag = new Int32Array(n).fill(NONE);
  const below = new Int32Array(n);
  for (let k = 0; k < n; k++) {
    flag[k] = k;
    for (let x = starts[k]; x < starts[k + 1]; x++)
      for (let i = rows[x]; flag[i] !== k; i = parent[i]) {
        if (parent[i] === NONE) parent[i] = k;
        below[i]++;
        flag[i] = k;
      }
  }
  return { parent, below };
}

/** Numbers under which whatever hangs below a node comes right before it. */
function postordered(parent: Int32Array): Int32Array {
  const n = parent.length;
  const child = new Int32Array(n).fill(NONE);
  const next = new Int32Array(n).fill(NONE);
  for (let j = n - 1; j >= 0; j--)
    if (parent[j] !== NONE) {
      next[j] = child[parent[j]];
      child[parent[j]] = j;
    }
  const to = new Int32Array(n);
  let count = 0;
  for (let root = 0; root < n; root++) {
    if (parent[root] !== NONE) continue;
    for (let j = root; ;) {
      while (child[j] !== NONE) j = child[j];
      to[j] = count++;
      // once all below a node have their numbers, it has its own
      while (j !== root && next[j] === NONE) {
        j = parent[j];
        to[j] = count++;
      }
      if (j === root) break;
      j = next[j];
    }
  }
  return to;
}

/** The first column of each group, and one more. `long` tells how many rows each column has, its own among them. */
function grouped(up: Int32Array, long: Int32Array): Int32Array {
  // groups so far: the first column of each, and how many of their numbers are zero
  const firsts: number[] = [];
  const zeros: number[] = [];
  for (let j = 0; j < up.length; j++) {
    let [first, padded] = [j, 0];
    const beyond = long[j] - 1;
    while (first > 0 && up[first - 1] !== NONE && up[first - 1] <= j) {
      const before = firsts[firsts.length - 1];
      const width = j + 1 - before;
      // each column of the group before would have all rows of this one
      const more = (first - before) * (j + 1 - first + beyond - (long[first - 1] - 1));
      const all = zeros[zeros.length - 1] + padded + more;
      if (width > MOST || (width > FEW && all > PADDED * width * (width / 2 + beyond))) break;
      [first, padded] = [before, all];
      firsts.pop();
      zeros.pop();
    }
    firsts.push(first);
    zeros.push(padded);
  }
  return Int32Array.from([...firsts, up.length]);
}

/** The rows of each group: those of its entries, and those of what hangs below it. */
function rowsOf(
  pattern: Pattern,
  to: Int32Array,
  up: Int32Array,
  firsts: Int32Array,
): Pick<Supernodes, 'starts' | 'rows' | 'parent'> {
  const lower = lowerOf(pattern, to);
  const groups = firsts.length - 1;
  const group = new Int32Array(up.length);
  for (let s = 0; s < groups; s++) group.fill(s, firsts[s], firsts[s + 1]);
  const parent = new Int32Array(groups).fill(NONE);
  const below: number[][] = Array.from({ length: groups }, () => []);
  const seen = new Int32Array(up.length).fill(NONE);
  const starts = new Int32Array(groups + 1);
  const all: Int32Array[] = [];
  for (let s = 0; s < groups; s++) {
    const own: number[] = [];
    const take = (row: number): void => {
      if (row < firsts[s + 1] || seen[row] === s) return;
      seen[row] = s;
      own.push(row);
    };
    for (let x = lower.starts[firsts[s]]; x < lower.starts[firsts[s + 1]]; x++) take(lower.rows[x]);
    for (const child of below[s]) all[child].forEach(take);
    const sorted = Int32Array.from(own).sort();
    all.push(sorted);
    starts[s + 1] = starts[s] + firsts[s + 1] - firsts[s] + sorted.length;
    if (sorted.length === 0) continue;
    parent[s] = group[sorted[0]];
    below[parent[s]].push(s);
  }
  const rows = new Int32Array(starts[groups]);
  for (let s = 0; s < groups; s++) {
    const wide = firsts[s + 1] - firsts[s];
    for (let c = 0; c < wide; c++) rows[starts[s] + c] = firsts[s] + c;
    rows.set(all[s], starts[s] + wide);
  }
  return { starts, rows, parent };
}

/** The pattern by the columns of its lower triangle, under other numbers. */
function lowerOf({ starts, rows }: Pattern, to: Int32Array): Pattern {
  const n = to.length;
  const first = new Int32Array(n + 1);
  const each = (visit: (low: number, high: number) => void): void => {
    for (let k = 0; k < n; k++)
      for (let x = starts[k]; x < starts[k + 1]; x++) {
        const a = to[k],
          b = to[rows[x]];
        visit(Math.min(a, b), Math.max(a, b));
      }
  };
  each((low) => first[low + 1]++);
  for (let j = 0; j < n; j++) first[j + 1] += first[j];
  const place = first.slice(0, n);
  const found = new Int32Array(first[n]);
  each((low, high) => (found[place[low]++] = high));
  return { starts: first, rows: found };
}
