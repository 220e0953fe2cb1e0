import { Primitive, type Accessor } from '@gltf-transform/core';
import { badFile } from '../../errors';
import type { PolygonSoup, SoupAttributes } from '../../mesh';
import { linearToSrgb } from '../colour';
import { GroupList } from '../GroupList';
import { GrowF32, GrowF64, GrowU32 } from '../grow';
import { NGON } from './ngonExtension';
import { decodeNgons } from './ngonEncoding';

/** Column-major 4 × 4 */
type Matrix = ArrayLike<number>;

const isIdentity = (m: Matrix): boolean => Array.from(m).every((x, i) => x === (i % 5 === 0 ? 1 : 0));

/** Primitives on their way into one soup, each placed by its node. */
export class GltfParts {
  private readonly positions: GrowF32 | GrowF64;
  private readonly corners = new GrowU32();
  private readonly starts = new GrowU32();
  private readonly uvs = new GrowF32();
  private readonly normals = new GrowF32();
  private readonly colours = new GrowF32();
  private readonly groups = new GroupList();
  private readonly seen = { uvs: false, normals: false, colours: false };

  /** `single`: every coordinate is a Float32 as it stands. */
  constructor(
    single: boolean,
    private readonly attributes: boolean,
  ) {
    this.positions = single ? new GrowF32() : new GrowF64();
    this.starts.push(0);
  }

  add(primitive: Primitive, m: Matrix, group: string): void {
    const accessor = primitive.getAttribute('POSITION');
    if (!accessor) return;
    const points = accessor.getCount();
    const { faceStarts, corners } = polygonsOf(primitive, points);
    if (faceStarts.length < 2) return;
    const base = this.positions.length / 3;
    this.addPoints(accessor, m);
    const turned = determinant(m) < 0;
    this.corners.room(corners.length);
    this.starts.room(faceStarts.length);
    const order = new Uint32Array(corners.length);
    for (let f = 0; f + 1 < faceStarts.length; f++) {
      const [from, to] = [faceStarts[f], faceStarts[f + 1]];
      for (let c = from; c < to; c++) {
        const v = corners[turned ? from + to - 1 - c : c];
        if (v >= points) throw badFile(`A triangle names point ${v}, but there are ${points}`);
        order[c] = v;
        this.corners.data[this.corners.length++] = base + v;
      }
      this.starts.data[this.starts.length++] = this.corners.length;
    }
    if (this.attributes) this.addAttributes(primitive, m, order, points, faceStarts.length - 1, group);
  }

  private addPoints(accessor: Accessor, m: Matrix): void {
    const { positions } = this;
    const count = accessor.getCount();
    positions.room(3 * count);
    const { data } = positions;
    const p = [0, 0, 0];
    for (let v = 0; v < count; v++) {
      accessor.getElement(v, p);
      const [x, y, z] = p;
      const at = positions.length;
      data[at] = m[0] * x + m[4] * y + m[8] * z + m[12];
      data[at + 1] = m[1] * x + m[5] * y + m[9] * z + m[13];
      data[at + 2] = m[2] * x + m[6] * y + m[10] * z + m[14];
      const sum = data[at] + data[at + 1] + data[at + 2];
      if (sum - sum !== 0) throw badFile(`Point ${v} of a mesh has a coordinate that is not a number`);
      positions.length += 3;
    }
  }

  private addAttributes(p: Primitive, m: Matrix, order: Uint32Array, points: number, faces: number, group: string) {
    this.groups.open(group);
    for (let f = 0; f < faces; f++) this.groups.addFace();
    const [uv, normal, colour] = ['TEXCOORD_0', 'NORMAL', 'COLOR_0'].map((name) => p.getAttribute(name));
    const put = (rows: GrowF32, from: Accessor | null, ids: Iterable<number>, stride: number, none: number): void => {
      const row = [0, 0, 0, 1];
      for (const id of ids) {
        if (from && id < from.getCount()) from.getElement(id, row);
        for (let k = 0; k < stride; k++) rows.push(from ? (row[k] ?? 1) : none);
      }
    };
    if (uv) this.seen.uvs = true;
    if (normal) this.seen.normals = true;
    if (colour) this.seen.colours = true;
    put(this.uvs, uv, order, 2, NaN);
    const first = this.normals.length;
    put(this.normals, normal, order, 3, 0);
    if (normal) turnNormals(this.normals.data.subarray(first, this.normals.length), m);
    const firstColour = this.colours.length;
    put(this.colours, colour, Array(points).keys(), 4, 1);
    if (colour) showColours(this.colours.data.subarray(firstColour, this.colours.length));
  }

  finish(): PolygonSoup {
    const soup = { positions: this.positions.done(), faceStarts: this.starts.done(), corners: this.corners.done() };
    if (!this.attributes) return soup;
    const found: SoupAttributes = {};
    if (this.seen.uvs) found.uvs = this.uvs.done();
    if (this.seen.normals) found.normals = this.normals.done();
    if (this.seen.colours) found.pointColours = this.colours.done();
    if (this.groups.used) found.groups = this.groups.done();
    return Object.keys(found).length > 0 ? { ...soup, attributes: found } : soup;
  }
}

/** Whether the coordinates come through a node as the Float32 they are. */
export const keepsSingles = (accessor: Accessor | null, m: Matrix): boolean =>
  !accessor || (isIdentity(m) && accessor.getArray() instanceof Float32Array);

function polygonsOf(primitive: Primitive, points: number): { faceStarts: Uint32Array; corners: Uint32Array } {
  const given = primitive.getIndices()?.getArray();
  const ids = given ? Uint32Array.from(given) : Uint32Array.from({ length: points }, (_, i) => i);
  const { TRIANGLES, TRIANGLE_STRIP, TRIANGLE_FAN } = Primitive.Mode;
  const mode = primitive.getMode();
  if (mode === TRIANGLES && primitive.getExtension(NGON)) return decodeNgons(ids);
  const corners =
    mode === TRIANGLES
      ? ids.subarray(0, ids.length - (ids.length % 3))
      : mode === TRIANGLE_STRIP || mode === TRIANGLE_FAN
        ? unrolled(ids, mode === TRIANGLE_FAN)
        : new Uint32Array(0);
  const faceStarts = Uint32Array.from({ length: corners.length / 3 + 1 }, (_, f) => 3 * f);
  return { faceStarts, corners };
}

/** A strip's or fan's triangles; those without three different points only stitch strips together, and are left out. */
function unrolled(ids: Uint32Array, isFan: boolean): Uint32Array {
  const out = new GrowU32(3 * ids.length);
  for (let i = 0; i + 2 < ids.length; i++) {
    const [a, b, c] = isFan ? [ids[0], ids[i + 1], ids[i + 2]] : i % 2 === 0 ? [ids[i], ids[i + 1], ids[i + 2]] : [ids[i + 1], ids[i], ids[i + 2]]; // prettier-ignore
    if (a !== b && b !== c && c !== a) for (const id of [a, b, c]) out.push(id);
  }
  return out.done();
}

const determinant = (m: Matrix): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

/** Normals turned by the cofactors of the matrix, which keeps them upright under uneven scale, and made unit. */
function turnNormals(n: Float32Array, m: Matrix): void {
  const sign = determinant(m) < 0 ? -1 : 1;
  const cofactor = (i: number, j: number): number => {
    const [a, b] = [(i + 1) % 3, (i + 2) % 3];
    const [c, d] = [(j + 1) % 3, (j + 2) % 3];
    return sign * (m[4 * c + a] * m[4 * d + b] - m[4 * d + a] * m[4 * c + b]);
  };
  const c = [0, 1, 2].map((i) => [0, 1, 2].map((j) => cofactor(i, j)));
  for (let i = 0; i < n.length; i += 3) {
    const turned = c.map((r) => r[0] * n[i] + r[1] * n[i + 1] + r[2] * n[i + 2]);
    const l = Math.hypot(...turned);
    for (let k = 0; k < 3; k++) n[i + k] = l > 0 ? turned[k] / l : 0;
  }
}

function showColours(rgba: Float32Array): void {
  for (let i = 0; i < rgba.length; i++) if (i % 4 < 3) rgba[i] = linearToSrgb(Math.min(1, Math.max(0, rgba[i])));
}
