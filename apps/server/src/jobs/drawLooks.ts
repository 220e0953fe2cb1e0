import type { AssetSettings } from '@half-loop/contract';
import { axisIndex, boxDiagonal, boxOf, mirrored, placementOf, toPlaced, type MirrorPlane } from '@half-loop/core/math';
import type { LineLayer, Mark, Rgb, SolidLayer } from '@half-loop/core/raster';
import type { Look } from '@half-loop/core/retopo';
import { vertexNormals } from '@half-loop/core/surface';
import { GLAZE, INK, pictureOf } from '../pictureOf';

/** triangles on the way, quads, and what was refused, with their edges */
const CLAY: [Rgb, Rgb] = [[196, 174, 147], [160, 138, 112]]; // prettier-ignore
const LAID: [Rgb, Rgb] = [GLAZE, INK];
const KILN: [Rgb, Rgb] = [[196, 104, 84], [96, 32, 18]]; // prettier-ignore
/** poles of three edges, of five, and others, in the colours and shapes that they have on the page; pixels */
const POLES: Readonly<Record<number, Rgb>> = { 3: [44, 92, 143], 5: [107, 90, 42] };
const OTHER_POLES: Rgb = [168, 67, 43];
const POLE_RADIUS = 6;

/** A PNG of parts as far as they have come, with their loops and poles, both halves where there is a plane; `fault` is the part that was refused. Cost: some 0.2 s. */
export function drawLooks(
  looks: readonly Look[],
  { up, front }: Pick<AssetSettings, 'up' | 'front'>,
  plane: MirrorPlane | null,
  fault: number | null,
): Uint8Array {
  const all = looks.flatMap((look) => (plane ? [look, otherHalf(look, plane)] : [look]));
  const raw = boxOf(all.flatMap(({ points }) => corners(points)));
  const placement = placementOf(up, front, raw, false);
  const placed = (points: Float64Array): Float32Array => {
    const out = new Float32Array(points.length);
    for (let i = 0; i < out.length; i += 3) out.set(toPlaced([points[i], points[i + 1], points[i + 2]], placement), i);
    return out;
  };
  const solids: SolidLayer[] = [];
  const lines: LineLayer[] = [];
  const box = boxOf(all.flatMap(({ points }) => corners(placed(points))));
  const marks: Mark[] = [];
  const lift = 0.004 * boxDiagonal(box);
  for (const { part, points, faces, sides, loops, poles } of all) {
    const positions = placed(points);
    const indices = sides === 3 ? Uint32Array.from(faces) : cut(faces);
    const [colour, edge] = part === fault ? KILN : sides === 3 ? CLAY : LAID;
    solids.push({ positions, indices, normals: vertexNormals(positions, indices), colour });
    if (loops.length === 0) lines.push({ segments: segments(positions, faces, sides), colour: edge, lift });
    for (const loop of loops)
      lines.push({ segments: along(placed(Float64Array.from(loop.flat()))), colour: INK, lift });
    for (const { at, valence } of poles)
      marks.push({ at: toPlaced(at, placement), sides: Math.max(3, valence), radius: POLE_RADIUS, colour: POLES[valence] ?? OTHER_POLES, lift: 2 * lift }); // prettier-ignore
  }
  return pictureOf(solids, lines, marks);
}

const corners = (points: ArrayLike<number>): number[] => {
  const { min, max } = boxOf(points);
  return [...min, ...max];
};

function otherHalf({ points, faces, loops, poles, ...look }: Look, plane: MirrorPlane): Look {
  const k = axisIndex(plane.axis);
  const { offset } = plane;
  return {
    ...look,
    loops: loops.map((loop) => loop.map((p) => mirrored(p, plane))),
    poles: poles.map(({ at, valence }) => ({ at: mirrored(at, plane), valence })),
    points: points.map((x, i) => (i % 3 === k ? 2 * offset - x : x)),
    // wound the other way
    faces: faces.map((_, i) => faces[i - (i % look.sides) + (look.sides - 1 - (i % look.sides))]),
  };
}

function cut(quads: Int32Array): Uint32Array {
  const indices = new Uint32Array((quads.length / 4) * 6);
  for (let q = 0; q < quads.length / 4; q++) {
    const [a, b, c, d] = quads.subarray(4 * q, 4 * q + 4);
    indices.set([a, b, c, a, c, d], 6 * q);
  }
  return indices;
}

function segments(points: Float32Array, faces: Int32Array, sides: 3 | 4): Float64Array {
  const out = new Float64Array(6 * faces.length);
  for (let h = 0; h < faces.length; h++) {
    const next = h % sides === sides - 1 ? h - sides + 1 : h + 1;
    for (const [at, v] of [[0, faces[h]], [3, faces[next]]]) out.set(points.subarray(3 * v, 3 * v + 3), 6 * h + at); // prettier-ignore
  }
  return out;
}

/** Segments from point to point of a line. */
function along(points: Float32Array): Float64Array {
  const out = new Float64Array(Math.max(0, 2 * points.length - 6));
  for (let i = 0; i + 3 < points.length; i += 3) out.set(points.subarray(i, i + 6), 2 * i);
  return out;
}
