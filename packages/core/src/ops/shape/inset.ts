import * as z from 'zod/mini';
import { addScaled, axisVector, dot, leastSquares, length, scale, sub, type Vec3 } from '../../math';
import { copyOf, faceNormal, Rebuild, type PolyMesh } from '../../mesh';
import { onMidline, settledPlace, type Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only, pickedFaces } from '../picked';
import { Copies, groupsOf, rimAndFans, type Fan } from './fans';
import { inwardOf, meanDirection } from './offsets';

const Params = z.object({
  width: proposedLength('Width'),
  height: proposedLength('Height', 'Up along the normal; empty: none'),
  faces: choice('Faces', [['together', 'together'], ['apart', 'each on its own']], 'together'), // prettier-ignore
});

/** A rim may be at most this many times its width from an old corner. */
const LONGEST = 6;

/**
 * Insets picked faces, together or each on its own: a rim of quads of even width, whatever the corners' angles. Where the width would
 * fold a face it is held back, and the report says at what. The rim is in the region of the face it came from.
 */
export const inset = operator({
  name: 'inset',
  title: 'Inset',
  params: Params,
  run(mesh, selection, { width, height, faces: how }, ground) {
    const faces = pickedFaces(mesh, selection, 'Pick the faces to inset.');
    const edges = new Set(faces.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
    const by = width ?? meanLength(mesh, edges) / 4;
    const plans = groupsOf(mesh, faces, how === 'apart').map((group) => planOf(mesh, group, ground));
    const held = heldBack(mesh, plans, by);
    const up = height ?? 0;
    const rebuild = new Rebuild(mesh, faces);
    const copies = new Copies();
    for (const { moves } of plans)
      for (const { fan, inward, normal } of moves) {
        const p = mesh.point(fan.vertex);
        const at = settledPlace(p, addScaled(addScaled(p, inward, held), normal, up), up === 0 ? ground : { ...ground, form: null }); // prettier-ignore
        copies.set(fan, rebuild.vertex(at, copyOf(fan.vertex)));
      }
    const inner: number[] = [];
    let rimCount = 0;
    for (const { outlines, rim } of plans) {
      for (const { f, corners } of outlines) inner.push(rebuild.face(corners.map((v) => copies.of(f, v)), f)); // prettier-ignore
      for (const { f, a, b } of rim) {
        rebuild.face([a, b, copies.of(f, b), copies.of(f, a)], f);
        rimCount++;
      }
    }
    const all = rebuild.finish();
    const back = held < by ? `; the width is held at ${Number(held.toPrecision(3))}` : '';
    return {
      selection: only({ faces: inner.map((k) => all[k]) }),
      report: {
        sentence: `${plural(inner.length, 'face')} inset, ${plural(rimCount, 'face')} in the rim, in the region of their faces${back}`,
        counts: { faces: inner.length, rim: rimCount, width: held, height: up },
      },
    };
  },
});

interface Plan {
  outlines: { f: number; corners: number[] }[];
  rim: { f: number; a: number; b: number }[];
  /** where a copy goes for a width of 1, and which way is up there */
  moves: { fan: Fan; inward: Vec3; normal: Vec3 }[];
}

function planOf(mesh: PolyMesh, group: readonly number[], ground: Ground): Plan {
  const { rim, fans } = rimAndFans(mesh, group, ground);
  const seams = new Set(rim.filter((r) => r.seam).map((r) => r.half));
  const moves = fans
    .filter((fan) => !(seams.has(fan.out) && seams.has(fan.into)))
    .map((fan) => {
      const normal = meanDirection(fan.faces.map((f) => faceNormal(mesh, f)));
      const lines = [fan.out, fan.into].filter((h) => !seams.has(h)).map((h) => inwardOf(mesh, h));
      const rows = [...lines, scale(normal, 10)];
      const right = [...lines.map(() => 1), 0];
      if (ground.plane && onMidline(mesh, fan.vertex, ground)) {
        rows.push(scale(axisVector(`+${ground.plane.axis}`), 10));
        right.push(0);
      }
      const m = leastSquares(rows, right) ?? [0, 0, 0];
      const l = length(m);
      return { fan, inward: l > LONGEST ? scale(m, LONGEST / l) : m, normal };
    });
  return {
    outlines: group.map((f) => ({ f, corners: mesh.faceVertices(f) })),
    rim: rim
      .filter((r) => !r.seam)
      .map(({ half }) => ({ f: mesh.face(half), a: mesh.origin(half), b: mesh.target(half) })),
    moves,
  };
}

/** The greatest width up to the one asked for at which no inner face folds. */
function heldBack(mesh: PolyMesh, plans: readonly Plan[], width: number): number {
  const folds = (w: number): boolean =>
    plans.some(({ outlines, moves }) => {
      const at = new Map<number, Map<number, Vec3>>();
      for (const { fan, inward } of moves)
        for (const f of fan.faces) {
          const known = at.get(f) ?? new Map<number, Vec3>();
          known.set(fan.vertex, addScaled(mesh.point(fan.vertex), inward, w));
          at.set(f, known);
        }
      return outlines.some(({ f, corners }) => {
        const before = corners.map((v) => mesh.point(v));
        const after = corners.map((v, i) => at.get(f)?.get(v) ?? before[i]);
        // a side that turned round has passed the one across from it
        return before.some((p, i) => {
          const k = (i + 1) % before.length;
          return dot(sub(before[k], p), sub(after[k], after[i])) <= 0;
        });
      });
    });
  if (width <= 0 || !folds(width)) return width;
  let low = 0,
    high = width;
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (folds(middle)) high = middle;
    else low = middle;
  }
  return low * 0.98;
}
