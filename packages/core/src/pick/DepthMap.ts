import { triangulate, type PolyMesh } from '../mesh';

/** Sides of a cell of the map, pixels: what is seen is decided this finely. */
const CELL = 2;

/**
 * What hides what from one eye: the nearest distance in each cell of the screen, drawn in software. For picking by outline. Places
 * are given as they are seen: pixel x, pixel y, distance along the view. Cost of what is added: its triangles and the
 * cells that they cover.
 */
export class DepthMap {
  private readonly columns: number;
  private readonly rows: number;
  private readonly nearest: Float32Array;

  constructor(width: number, height: number) {
    this.columns = Math.ceil(width / CELL);
    this.rows = Math.ceil(height / CELL);
    this.nearest = new Float32Array(this.columns * this.rows).fill(Infinity);
  }

  /** `seen` holds f32[3·vertexRows]. */
  addMesh(mesh: PolyMesh, seen: Float32Array): void {
    for (const f of mesh.faces()) {
      const vertices = mesh.faceVertices(f);
      const cut = vertices.length === 3 ? [0, 1, 2] : vertices.length === 4 ? [0, 1, 2, 0, 2, 3] : triangulate(vertices.map((v) => mesh.point(v))); // prettier-ignore
      for (let i = 0; i < cut.length; i += 3) this.draw(seen, vertices[cut[i]], vertices[cut[i + 1]], vertices[cut[i + 2]]); // prettier-ignore
    }
  }
  /** `seen` holds f32[3] a point, `indices` three points a triangle. */
  addTriangles(seen: Float32Array, indices: Uint32Array): void {
    for (let i = 0; i < indices.length; i += 3) this.draw(seen, indices[i], indices[i + 1], indices[i + 2]);
  }

  /** Whether a place is on the screen and nothing in its cell lies nearer by more than `slack`. */
  isSeen(x: number, y: number, along: number, slack: number): boolean {
    const i = Math.floor(x / CELL),
      j = Math.floor(y / CELL);
    if (!(along > 0) || !(i >= 0 && j >= 0 && i < this.columns && j < this.rows)) return false;
    // the furthest of the cells round it: at a silhouette the place's own cell may hold a nearer fold's rim
    let most = 0;
    for (let dj = -1; dj <= 1; dj++)
      for (let di = -1; di <= 1; di++) {
        const c =
          Math.min(this.columns - 1, Math.max(0, i + di)) + this.columns * Math.min(this.rows - 1, Math.max(0, j + dj));
        most = Math.max(most, this.nearest[c]);
      }
    return most >= along - slack;
  }

  private draw(s: Float32Array, a: number, b: number, c: number): void {
    const ax = s[3 * a] / CELL, ay = s[3 * a + 1] / CELL, bx = s[3 * b] / CELL, by = s[3 * b + 1] / CELL, cx = s[3 * c] / CELL, cy = s[3 * c + 1] / CELL; // prettier-ignore
    if (!(s[3 * a + 2] > 0 && s[3 * b + 2] > 0 && s[3 * c + 2] > 0)) return;
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (area === 0) return;
    const low = Math.max(0, Math.floor(Math.min(ay, by, cy))),
      high = Math.min(this.rows - 1, Math.ceil(Math.max(ay, by, cy)));
    const left = Math.max(0, Math.floor(Math.min(ax, bx, cx))),
      right = Math.min(this.columns - 1, Math.ceil(Math.max(ax, bx, cx)));
    for (let j = low; j <= high; j++)
      for (let i = left; i <= right; i++) {
        const [x, y] = [i + 0.5, j + 0.5];
        const wb = ((x - ax) * (cy - ay) - (y - ay) * (cx - ax)) / area,
          wc = ((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / area;
        if (wb < 0 || wc < 0 || wb + wc > 1) continue;
        const along = s[3 * a + 2] * (1 - wb - wc) + s[3 * b + 2] * wb + s[3 * c + 2] * wc;
        const at = i + this.columns * j;
        if (along < this.nearest[at]) this.nearest[at] = along;
      }
  }
}
