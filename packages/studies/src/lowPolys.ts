import type { Guide } from '@half-loop/contract';
import { add, addScaled, cross, normalize, sub, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, meshFromSoup, PolyMesh } from '@half-loop/core/mesh';
import { closeCells, layThread, ringOpening, runOperator, type Ground } from '@half-loop/core/ops';
import { LAY_AS_USUAL, layAll, quadSoup } from '@half-loop/core/retopo';
import { WalkingForm, type SculptSurface } from '@half-loop/core/surface';
import { EYE, EYE_AXIS, mouthLine } from './blennyHead';
import { layCap, layRows } from './layRows';
import { stemRadius, tendrilSpine } from './tendrilSpine';

const MIRROR = { axis: 'x', offset: 0 } as const;
const tuple = ([x, y, z]: Vec3): [number, number, number] => [x, y, z];

/** Where the Blenny stands in the demo: rings round the eye and the mouth of the right half, the rest open. */
export function blennyRings(surface: SculptSurface): PolyMesh {
  const mesh = new PolyMesh();
  const axis = normalize(EYE_AXIS);
  const eye = { spokes: 14, rings: 2, radius: 1.42, width: 0.4, stretch: 1.13 };
  const at = drop(surface, addScaled([EYE.x, EYE.y, EYE.z], axis, 5), axis);
  runOperator(mesh, ringOpening, EMPTY_SELECTION, { ...eye, at: tuple(at), facing: tuple(axis), along: tuple(cross([0, 1, 0], axis)) }, { plane: MIRROR, form: new WalkingForm(surface) }); // prettier-ignore
  const rows = [[2.5, 0.3], [2.72, 0.72], [2.9, 1.2], [3.05, 1.75]].map(([wide, high]) => mouthRow(surface, wide, high, 10)); // prettier-ignore
  layNet(mesh, rows, { plane: MIRROR, form: new WalkingForm(surface) });
  return mesh;
}

/** Threads along rows of points and across them, and a quad in every cell. */
function layNet(mesh: PolyMesh, rows: readonly Vec3[][], ground: Ground): void {
  const thread = (corners: Parameters<typeof layThread.run>[2]['corners']): void =>
    void runOperator(mesh, layThread, EMPTY_SELECTION, { corners }, ground);
  const ids = rows.map((row) => {
    const before = new Set(mesh.vertices());
    thread(row.map((at) => ({ point: tuple(at) })));
    return [...mesh.vertices()].filter((v) => !before.has(v));
  });
  ids[0].forEach((_, i) => thread(ids.map((row) => ({ vertex: row[i] }))));
  runOperator(mesh, closeCells, EMPTY_SELECTION, {}, ground);
}

/** A row round the right half of the mouth, from midline to midline. */
const mouthRow = (surface: SculptSurface, wide: number, high: number, count: number): Vec3[] =>
  Array.from({ length: count }, (_, i) => {
    const a = (i / (count - 1)) * Math.PI;
    const isEnd = i === 0 || i === count - 1;
    const x = isEnd ? 0 : wide * Math.sin(a);
    const { y, outward } = mouthLine(x);
    const p = drop(surface, add([0, y + high * Math.cos(a), 2.05], [outward[0] * 9, 0, outward[2] * 9]), outward);
    return isEnd ? [0, p[1], p[2]] : p;
  });

/** Guides for automatic retopology: round the eye, and round the mouth's right half. */
export function blennyGuides(surface: SculptSurface): Guide[] {
  const axis = normalize(EYE_AXIS);
  const side = normalize(cross([0, 1, 0], axis));
  const up = cross(axis, side);
  const eye = Array.from({ length: 48 }, (_, i): Vec3 => {
    const a = (i / 48) * 2 * Math.PI;
    const from = addScaled(addScaled([EYE.x, EYE.y, EYE.z], side, 1.95 * Math.cos(a)), up, 1.75 * Math.sin(a));
    return drop(surface, addScaled(from, axis, 5), axis);
  });
  return [
    { name: 'Round the eye', points: eye.map(tuple), closed: true },
    { name: 'Round the mouth', points: mouthRow(surface, 2.95, 1.35, 40).map(tuple), closed: false },
  ];
}

/** The first point of the surface that a ray against `axis` meets from `from`. */
function drop(surface: SculptSurface, from: Vec3, axis: Vec3): Vec3 {
  const hit = surface.raycast(from, [-axis[0], -axis[1], -axis[2]]);
  return hit ? hit.point : surface.closest(from).point;
}

/** Where the Whelk stands in the demo: all laid by automatic retopology, over its budget. */
export function whelkLaid(surface: SculptSurface): PolyMesh {
  const { soup } = layAll(surface, { ...LAY_AS_USUAL, faces: 6000 });
  return meshFromSoup(quadSoup(soup)).mesh;
}

const SIDES = 10;
/** Where the Kelp stands in the demo: a finished tube of quads along the stem, longer along it, both ends closed by quads. */
export function kelpTube(surface: SculptSurface): PolyMesh {
  const spine = tendrilSpine();
  const mesh = new PolyMesh();
  const rows: Vec3[][] = [];
  const centres: Vec3[] = [];
  for (let s = 0.4; s < spine.length; s += 0.62 * stemRadius(s) + 0.1) {
    const i = Math.min(spine.count - 1, Math.round(s / spine.step));
    const at = (a: Float64Array): Vec3 => [a[3 * i], a[3 * i + 1], a[3 * i + 2]];
    const centre = at(spine.point);
    centres.push(centre);
    rows.push(
      Array.from({ length: SIDES }, (_, k) => {
        const a = (k / SIDES) * 2 * Math.PI;
        const d = addScaled(addScaled([0, 0, 0], at(spine.normal), Math.cos(a)), at(spine.binormal), Math.sin(a));
        const hit = surface.raycast(centre, d);
        const r = stemRadius(s);
        return addScaled(centre, d, hit && hit.distance < 1.3 * r ? hit.distance : r);
      }),
    );
  }
  const nearest = (p: Vec3): Vec3 =>
    centres.reduce((a, b) => (Math.hypot(...sub(p, b)) < Math.hypot(...sub(p, a)) ? b : a));
  const ids = layRows(mesh, rows, true, (p) => sub(p, nearest(p)));
  const last = ids.length - 1;
  layCap(mesh, ids[0], sub(centres[0], centres[1]));
  layCap(mesh, ids[last], sub(centres[last], centres[last - 1]));
  return mesh;
}
