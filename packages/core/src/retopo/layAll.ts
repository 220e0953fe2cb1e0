import { axisIndex, cross, isOnPlane, length, planeDistance, sub, type MirrorPlane, type Vec3 } from '../math';
import { SculptSurface } from '../surface';
import { Attempt } from './Attempt';
import type { Triangles } from './clean';
import type { QuadSoup } from './extract';
import { keptOnHalf } from './halve';
import type { LaidAll, LayAllOptions } from './options';
import { relaxedSafely } from './relax';
import { shellOf } from './shell';
import { Stages } from './Stages';
import { qualityOf } from './verify';

/** Cells of the outer shell over the quads' size. */
const SHELL_CELL = 0.5;

/**
 * Automatic retopology: quads over triangles, about as many as asked for, along the form, its sharp edges and borders. Each part by a whole-number
 * grid over a cross field (Bommes et al. 2009; Knöppel et al. 2013), faults mended, every result verified. What does not pass is laid over the form's outer
 * shell, if it is closed; else by paired triangles. Deterministic. `onStage` is told before each stage and may throw to stop. Throws BAD_INPUT for nothing to
 * lay on, NO_WAY where even the last way does not pass. Cost: linear in the triangles up to the working mesh, then by the count: some seconds for thousands of quads.
 */
export function layAll(
  input: Triangles,
  options: LayAllOptions,
  onStage: (name: string, done: number) => void = () => undefined,
): LaidAll {
  const stages = new Stages(onStage);
  stages.share = [0, 0.5];
  const direct = new Attempt(input, options, stages);
  const finished = (laid: LaidAll): LaidAll => {
    if (options.plane) keptOnHalf(laid.soup, options.plane);
    return laid;
  };
  if (direct.isSound) return finished(direct.result(stages.finish()));
  stages.share = [0.5, 0.4];
  if (direct.isClosed) {
    const over = overShell(input, options, stages);
    if (over) return finished(over);
  }
  stages.share = [0.9, 0.1];
  direct.pairRest();
  return finished(direct.result(stages.finish()));
}

/** Lays over the outer shell and brings the quads onto the form. Null where that is not sound either. */
function overShell(input: Triangles, options: LayAllOptions, stages: Stages): LaidAll | null {
  stages.begin('Outer shell', 0);
  const surface = SculptSurface.build({ positions: Float32Array.from(input.positions), indices: Uint32Array.from(input.indices) }); // prettier-ignore
  const size = Math.sqrt(surfaceArea(input) / options.faces);
  const shell = shellOf(surface, SHELL_CELL * size);
  // sharp edges of the form are none of the shell's
  const attempt = new Attempt(shell, { ...options, keepEdges: null }, stages);
  if (!attempt.isSound) return null;
  const laid = attempt.result(stages.finish());
  const offShell = laid.soup.points.slice();
  broughtOnto(laid.soup, surface, 3 * shell.out, options.plane);
  relaxedSafely(laid.soup, [], surface, 6);
  if (qualityOf(laid.soup.points, laid.soup.quads, null).folded > 0) laid.soup.points.set(offShell);
  laid.mended.push(`Laid over the outer shell: walls, gaps and handles finer than ${Number((2 * shell.out).toPrecision(2))} units are closed`); // prettier-ignore
  return { ...laid, routes: laid.routes.map((r) => ({ ...r, route: 'shell' })) };
}

/** Points onto the nearest place of a surface that is no further than `reach`; those on the plane stay on it. */
function broughtOnto(
  { points, onLine }: QuadSoup,
  surface: SculptSurface,
  reach: number,
  plane: MirrorPlane | null,
): void {
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
}

function surfaceArea({ positions: p, indices }: Triangles): number {
  let sum = 0;
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const [a, b, c] = [3 * indices[i], 3 * indices[i + 1], 3 * indices[i + 2]];
    const at = (v: number): Vec3 => [p[v], p[v + 1], p[v + 2]];
    sum += length(cross(sub(at(b), at(a)), sub(at(c), at(a)))) / 2;
  }
  return sum;
}
