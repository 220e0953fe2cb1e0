import { axisIndex, isOnPlane, planeDistance, type MirrorPlane, type Vec3 } from '../math';
import { SculptSurface } from '../surface';
import { backWhereWorse } from './fit/fit';
import { facingOf } from './fit/facing';
import { relaxedSafely, soundness } from './fit/relax';
import { cleaned } from './form/clean';
import { halfOf } from './form/halve';
import { shellOf } from './form/shell';
import type { Piece } from './gridQuads';
import type { Asked } from './options';
import { Part } from './Part';
import { areaIn } from './Prepared';
import type { QuadSoup } from './quads/QuadSoup';
import type { Stages } from './Stages';

/** Cells of the outer shell over the quads' size, and tries on it: the finer ones keep more of the form, the coarser ones close more. */
const SHELLS = [
  { cell: 0.25, tries: 2 },
  { cell: 0.5, tries: 2 },
];

/**
 * Lays a closed part over its outer shell and brings the quads onto the form: walls, gaps and handles finer than quads are closed. Null where that is not sound
 * either. Cost: the shell's grid, and a second laying.
 */
export function overShell(
  part: Part,
  area: number,
  options: Asked,
  stages: Stages,
): { pieces: Piece[]; mended: string[] } | null {
  const { plane } = options;
  const surface = plane ? bothSides(part.surface, plane) : part.surface;
  for (const { cell, tries } of SHELLS) {
    stages.begin('Outer shell', 0);
    const shell = shellOf(surface, cell * Math.sqrt(area / part.target));
    const over = shellLaid(shell, part, tries, options, stages);
    if (over) return over;
  }
  return null;
}

function shellLaid(
  shell: ReturnType<typeof shellOf>,
  part: Part,
  tries: number,
  options: Asked,
  stages: Stages,
): { pieces: Piece[]; mended: string[] } | null {
  const { plane } = options;
  const { parts } = cleaned(plane ? halfOf(shell, plane) : shell);
  const total = parts.reduce((sum, mesh) => sum + areaIn(mesh), 0);
  const pieces: Piece[] = [];
  const mended: string[] = [];
  for (const mesh of parts) {
    // sharp edges of the form are none of the shell's
    const target = (part.target * areaIn(mesh)) / total;
    const own = new Part(mesh, target, { ...options, keepEdges: null }, stages, tries).lay();
    if (!own.isLaid) return null;
    pieces.push(...own.pieces().map((piece): Piece => ({ ...piece, route: 'shell' })));
    mended.push(...own.mended);
  }
  for (const { soup } of pieces) ontoForm(soup, part.surface, 3 * shell.out, plane);
  mended.push(`1 part(s) laid over the outer shell: walls, gaps and handles finer than ${Number((2 * shell.out).toPrecision(2))} units are closed`); // prettier-ignore
  return { pieces, mended };
}

/** A half and its mirror image, which meet in the plane. */
function bothSides({ positions, indices }: SculptSurface, { axis, offset }: MirrorPlane): SculptSurface {
  const k = axisIndex(axis);
  const n = positions.length / 3;
  const points = new Float32Array(2 * positions.length);
  points.set(positions);
  points.set(positions, positions.length);
  for (let i = positions.length + k; i < points.length; i += 3) points[i] = 2 * offset - points[i];
  const corners = new Uint32Array(2 * indices.length);
  corners.set(indices);
  for (let i = 0; i < indices.length; i += 3)
    for (let c = 0; c < 3; c++) corners[indices.length + i + c] = n + indices[i + 2 - c];
  return SculptSurface.build({ positions: points, indices: corners });
}

/** A quad that was no worse than this may not become so. */
const SUFFERS = 0.15;

/** Points onto the nearest place of a surface that is no further than `reach`, unless quads suffer; those on the plane stay on it. */
function ontoForm(soup: QuadSoup, surface: SculptSurface, reach: number, plane: MirrorPlane | null): void {
  const { points, onLine } = soup;
  const before = points.slice();
  const facing = facingOf(soup);
  for (let v = 0; v < onLine.length; v++) {
    const p: Vec3 = [points[3 * v], points[3 * v + 1], points[3 * v + 2]];
    // the midline's curve was the shell's: these points must not leave the plane, and have no curve any more
    if (onLine[v] >= 0) onLine[v] = -2;
    const { point, distance } = surface.closest(p);
    if (distance > reach) continue;
    const isOn = plane !== null && isOnPlane(p, plane);
    const to = plane && (isOn || planeDistance(point, plane) < 0) ? point.map((x, i) => (i === axisIndex(plane.axis) ? p[i] : x)) : point; // prettier-ignore
    points.set(to, 3 * v);
  }
  relaxedSafely(soup, [], surface, 6, facing);
  backWhereWorse(soup, before, (q) => {
    const wanted = facing.subarray((3 * q) / 4, (3 * q) / 4 + 3);
    const was = soundness({ ...soup, points: before }, q, wanted);
    return soundness(soup, q, wanted) < Math.min(SUFFERS, was);
  });
}
