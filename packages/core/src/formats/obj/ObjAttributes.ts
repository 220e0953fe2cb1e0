import { badFile } from '../../errors';
import { hardEdgesOf, type PolygonSoup, type SoupAttributes } from '../../mesh';
import { GroupList } from '../GroupList';
import { GrowF32, GrowU32 } from '../grow';
import type { TextScanner } from '../TextScanner';

/**
 * What an OBJ file says beside points and polygons, gathered on the way. Groups come from `g` lines, without them from
 * `o`, without those from `usemtl`; hard edges from `s`, whose number ends where another begins.
 */
export class ObjAttributes {
  private readonly uvs = new GrowF32();
  private readonly normals = new GrowF32();
  private readonly colours = new GrowF32();
  private coloured = 0;
  private readonly cornerUvs = new GrowU32();
  private readonly cornerNormals = new GrowU32();
  private readonly smoothing = new GrowU32();
  private smooth = 0;
  private smoothed = false;
  private readonly lists = { g: new GroupList(), o: new GroupList(), usemtl: new GroupList() };

  constructor(private readonly s: TextScanner) {}

  /** Colour values behind a point's three coordinates; three or four of them, in [0, 1]. */
  pointColour(points: number): void {
    const { s, colours } = this;
    colours.room(4);
    colours.data.fill(1, colours.length, colours.length + 4);
    let n = 0;
    for (; n < 4 && !s.lineEnds(); n++) {
      const value = s.number('a colour value');
      colours.data[colours.length + n] = Math.min(1, Math.max(0, value));
    }
    // one value more is a weight of a curve, not a colour
    if (n < 3) colours.data.fill(1, colours.length, colours.length + 4);
    else this.coloured++;
    colours.length = 4 * points;
  }

  /** A line of vt or vn values. */
  values(isNormal: boolean): void {
    const { s } = this;
    s.at += 2;
    if (isNormal) for (let k = 0; k < 3; k++) this.normals.push(s.number('a normal'));
    else {
      this.uvs.push(s.number('a texture coordinate'));
      this.uvs.push(s.lineEnds() ? 0 : s.number('a texture coordinate'));
    }
  }

  corner(uv: number, normal: number): void {
    this.cornerUvs.push(this.index(uv, this.uvs.length / 2, 'texture coordinate'));
    this.cornerNormals.push(this.index(normal, this.normals.length / 3, 'normal'));
  }

  /** 0 for none, else the row plus one. */
  private index(given: number, defined: number, what: string): number {
    if (given === 0) return 0;
    const row = given < 0 ? defined + given : given - 1;
    if (row < 0 || row >= defined)
      throw badFile(`A face names ${what} ${given}, but ${defined} are defined so far`, this.s);
    return row + 1;
  }

  endFace(): void {
    for (const list of Object.values(this.lists)) list.addFace();
    this.smoothing.push(this.smooth);
  }

  /** Whether the word opened a group or set the smoothing. */
  keyword(word: string): boolean {
    if (word === 's') {
      const value = this.s.rest();
      this.smooth = value === 'off' ? 0 : Number(value) || 0;
      this.smoothed = true;
    } else if (word === 'g' || word === 'o' || word === 'usemtl') this.lists[word].open(this.s.rest());
    else return false;
    return true;
  }

  finish(soup: PolygonSoup): SoupAttributes | null {
    const found: SoupAttributes = {};
    const uvs = this.spread(this.cornerUvs, this.uvs, 2, NaN);
    const normals = this.spread(this.cornerNormals, this.normals, 3, 0);
    const list = Object.values(this.lists).find((l) => l.used);
    if (uvs) found.uvs = uvs;
    if (normals) found.normals = normals;
    if (this.coloured > 0) found.pointColours = this.colours.done();
    if (list) found.groups = list.done();
    if (this.smoothed) found.hardEdges = hardEdgesOf(soup, this.smoothing.done());
    return Object.keys(found).length > 0 ? found : null;
  }

  private spread(rows: GrowU32, values: GrowF32, stride: number, none: number): Float32Array | null {
    const of = rows.done();
    if (!of.some((row) => row > 0)) return null;
    const out = new Float32Array(stride * of.length).fill(none);
    of.forEach((row, c) => {
      if (row > 0) for (let k = 0; k < stride; k++) out[stride * c + k] = values.data[stride * (row - 1) + k];
    });
    return out;
  }
}
