import type { SymmetricEntries, UpperTriangle } from './sparse';

/** Columns are taken together with those before them as long as no more than this share of their numbers is zero for that. */
const PADDED = 0.05;
/** Few columns are taken together whatever that costs: handling each by itself costs more. */
const FEW = 8;
/** No group has more columns: the upper half of the square on its top is wasted. */
const MOST = 64;
const NONE = -1;

/** The columns of a triangular factor in groups that follow each other and have nearly the same rows: each group is one dense block. */
export interface Supernodes {
  /** unknown → its column: every group's columns follow each other */
  to: Int32Array;
  /** the matrix by rows of its upper triangle, under these numbers */
  matrix: UpperTriangle;
  /** group → its first column; one more at the end */
  firsts: Int32Array;
  /** group → where its rows start; one more at the end */
  starts: Int32Array;
  /** the rows of each group, its own columns first, ascending */
  rows: Int32Array;
  /** group → those whose first row beyond their own columns belongs to it; they all come before it */
  below: readonly (readonly number[])[];
}

/**
 * Groups the columns that a symmetric matrix's factor has (Liu, Ng and Peyton 1993; taken together somewhat more freely after Ashcraft and Grimes 1989). Unknowns are taken in an `order`, renumbered along the
 * elimination tree, which leaves their fill as it is. Cost: the factor's entries, once.
 */
export function supernodesOf(entries: SymmetricEntries, order: ArrayLike<number>): Supernodes {
  const n = entries.size;
  const taken = new Int32Array(n);
  for (let k = 0; k < n; k++) taken[order[k]] = k;
  const tree = treeOf(entries.upper(taken));
  const post = postordered(tree.parent);
  const up = new Int32Array(n).fill(NONE);
  const beyond = new Int32Array(n);
  for (let j = 0; j < n; j++) {
    if (tree.parent[j] !== NONE) up[post[j]] = post[tree.parent[j]];
    beyond[post[j]] = tree.beyond[j];
  }
  const to = taken.map((k) => post[k]);
  const matrix = entries.upper(to, true);
  const firsts = grouped(up, beyond);
  return { to, matrix, firsts, ...rowsOf(matrix, firsts) };
}

/** The elimination tree, and how many rows each column of the factor has beyond its own. */
function treeOf({ starts, rows }: UpperTriangle): { parent: Int32Array; beyond: Int32Array } {
  const n = starts.length - 1;
  const parent = new Int32Array(n).fill(NONE);
  const flag = new Int32Array(n).fill(NONE);
  const beyond = new Int32Array(n);
  for (let k = 0; k < n; k++) {
    flag[k] = k;
    for (let x = starts[k]; x < starts[k + 1]; x++)
      for (let i = rows[x]; flag[i] !== k; i = parent[i]) {
        if (parent[i] === NONE) parent[i] = k;
        beyond[i]++;
        flag[i] = k;
      }
  }
  return { parent, beyond };
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

/** The first column of each group, and one more. `up` is each column's parent, `beyond` tells how many rows it has beyond its own. */
function grouped(up: Int32Array, beyond: Int32Array): Int32Array {
  // groups so far: the first column of each, and how many of their numbers are zero
  const firsts: number[] = [];
  const zeros: number[] = [];
  for (let j = 0; j < up.length; j++) {
    let [first, padded] = [j, 0];
    while (first > 0 && up[first - 1] !== NONE && up[first - 1] <= j) {
      const before = firsts[firsts.length - 1];
      const width = j + 1 - before;
      // each column of the group before would have all rows of this one
      const more = (first - before) * (j + 1 - first + beyond[j] - beyond[first - 1]);
      const all = zeros[zeros.length - 1] + padded + more;
      if (width > MOST || (width > FEW && all > PADDED * width * (width / 2 + beyond[j]))) break;
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
function rowsOf(matrix: UpperTriangle, firsts: Int32Array): Pick<Supernodes, 'starts' | 'rows' | 'below'> {
  const n = matrix.starts.length - 1;
  const groups = firsts.length - 1;
  const group = new Int32Array(n);
  for (let s = 0; s < groups; s++) group.fill(s, firsts[s], firsts[s + 1]);
  const below: number[][] = Array.from({ length: groups }, () => []);
  const seen = new Int32Array(n).fill(NONE);
  const starts = new Int32Array(groups + 1);
  const beyond: Int32Array[] = [];
  for (let s = 0; s < groups; s++) {
    const own: number[] = [];
    const take = (row: number): void => {
      if (row < firsts[s + 1] || seen[row] === s) return;
      seen[row] = s;
      own.push(row);
    };
    for (let x = matrix.starts[firsts[s]]; x < matrix.starts[firsts[s + 1]]; x++) take(matrix.rows[x]);
    for (const child of below[s]) beyond[child].forEach(take);
    beyond.push(Int32Array.from(own).sort());
    starts[s + 1] = starts[s] + firsts[s + 1] - firsts[s] + own.length;
    if (own.length > 0) below[group[beyond[s][0]]].push(s);
  }
  const rows = new Int32Array(starts[groups]);
  for (let s = 0; s < groups; s++) {
    const wide = firsts[s + 1] - firsts[s];
    for (let c = 0; c < wide; c++) rows[starts[s] + c] = firsts[s] + c;
    rows.set(beyond[s], starts[s] + wide);
  }
  return { starts, rows, below };
}
