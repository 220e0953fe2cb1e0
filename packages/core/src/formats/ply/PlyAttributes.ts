import type { PolygonSoup, SoupAttributes } from '../../mesh';
import { GrowF32 } from '../grow';
import { spread } from '../pointsAndCorners';
import type { Header, Property } from './header';

const COLOURS = ['red', 'green', 'blue', 'alpha'];
const NORMALS = ['nx', 'ny', 'nz'];
/** the names programs give the two texture coordinates of a point */
const UVS: Readonly<Record<string, number>> = { s: 0, u: 0, texture_u: 0, texture_s: 0, t: 1, v: 1, texture_v: 1, texture_t: 1 }; // prettier-ignore

/** Where a property's value goes: an array of rows, its place in the row, and what it is multiplied with. */
interface Target {
  rows: Float32Array;
  stride: number;
  slot: number;
  scale: number;
}

/** What a PLY file says beside points and faces, gathered on the way. */
export class PlyAttributes {
  private readonly pointTargets: (Target | null)[];
  private readonly faceTargets: (Target | null)[];
  private readonly colours: Float32Array | null;
  private readonly normals: Float32Array | null;
  private readonly uvs: Float32Array | null;
  private readonly faceColours: Float32Array | null;
  /** which property of a face lists texture coordinates, −1 for none */
  private readonly texcoord: number;
  private readonly cornerUvs = new GrowF32();
  private listed = 0;

  constructor({ elements }: Header) {
    const point = elements.find((e) => e.name === 'vertex');
    const face = elements.find((e) => e.name === 'face');
    const has = (names: string[], of = point): boolean => names.every((n) => of?.properties.some((p) => p.name === n));
    const make = (there: boolean, stride: number, fill: number, of = point): Float32Array | null =>
      there && of ? new Float32Array(stride * of.count).fill(fill) : null;
    this.colours = make(has(COLOURS.slice(0, 3)), 4, 1);
    this.normals = make(has(NORMALS), 3, 0);
    this.uvs = make(point?.properties.filter((p) => Object.hasOwn(UVS, p.name)).length === 2, 2, NaN);
    this.faceColours = make(has(COLOURS.slice(0, 3), face), 4, 1, face);
    this.pointTargets = (point?.properties ?? []).map((p) => this.pointTarget(p));
    this.faceTargets = (face?.properties ?? []).map((p) => colourTarget(p, this.faceColours));
    this.texcoord = face?.properties.findIndex((p) => p.list && p.name === 'texcoord') ?? -1;
  }

  private pointTarget(p: Property): Target | null {
    const normal = NORMALS.indexOf(p.name);
    if (normal >= 0 && this.normals) return { rows: this.normals, stride: 3, slot: normal, scale: 1 };
    if (this.uvs && Object.hasOwn(UVS, p.name)) return { rows: this.uvs, stride: 2, slot: UVS[p.name], scale: 1 };
    return colourTarget(p, this.colours);
  }

  pointValue(property: number, v: number, value: number): void {
    put(this.pointTargets[property], v, value);
  }
  faceValue(property: number, f: number, item: number, value: number): void {
    if (property !== this.texcoord) put(this.faceTargets[property], f, value);
    else {
      if (item === 0) this.listed = this.cornerUvs.length;
      this.cornerUvs.push(value);
    }
  }
  /** After a face's record: its listed texture coordinates are made as many as its corners. */
  endFace(_f: number, corners: number): void {
    if (this.texcoord < 0) return;
    const { cornerUvs } = this;
    if (cornerUvs.length !== 2 * corners) cornerUvs.length = Math.min(cornerUvs.length, this.listed);
    while (cornerUvs.length < 2 * corners) cornerUvs.push(NaN);
    this.listed = cornerUvs.length;
  }

  finish({ corners }: PolygonSoup): SoupAttributes | null {
    const found: SoupAttributes = {};
    if (this.texcoord >= 0 && this.cornerUvs.length === 2 * corners.length) found.uvs = this.cornerUvs.done();
    else if (this.uvs) found.uvs = spread(this.uvs, 2, corners);
    if (this.normals) found.normals = spread(this.normals, 3, corners);
    if (this.colours) found.pointColours = this.colours;
    if (this.faceColours) found.faceColours = this.faceColours;
    return Object.keys(found).length > 0 ? found : null;
  }
}

function colourTarget(p: Property, rows: Float32Array | null): Target | null {
  const slot = COLOURS.indexOf(p.name);
  const scale = p.type === 'u8' ? 1 / 255 : p.type === 'u16' ? 1 / 65535 : 1;
  return rows && slot >= 0 && !p.list ? { rows, stride: 4, slot, scale } : null;
}

function put(target: Target | null, row: number, value: number): void {
  if (target && Number.isFinite(value)) target.rows[target.stride * row + target.slot] = value * target.scale;
}
