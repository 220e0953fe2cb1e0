import type { MessagePort } from 'node:worker_threads';
import { HalfLoopError } from '@half-loop/core/errors';
import { compareSurfaces } from '@half-loop/core/inspect';
import { seededRng } from '@half-loop/core/math';
import { decodeMesh, encodeMesh, meshFromSoup, soupFromMesh, type PolygonSoup } from '@half-loop/core/mesh'; // prettier-ignore
import { regionOfFaces } from '@half-loop/core/ops';
import {
  bothHalves,
  layAll,
  painted,
  pieceBorders,
  qualityOf,
  quadSoup,
  shownSurface,
  type DrawnLine,
  type LaidAll,
  type Look,
  type Triangles,
} from '@half-loop/core/retopo';
import { shapeOf, shapeValues } from '@half-loop/core/subdivide';
import { decodeSculpt, sculptFromSoup, SculptSurface } from '@half-loop/core/surface';
import { ThreadAside } from '@half-loop/threads';
import type { LayAllAsk } from '@half-loop/contract';
import { drawLooks } from './drawLooks';
import type { JobNews, JobOutcome, JobResult, JobTask } from './JobRunner';

/** Pictures are drawn no more often, milliseconds: they must not cost more than what they show. */
const EVERY = 1500;

/** A task, who hears of it, and whether no other runs when it begins: it may have the other core, too. */
interface ThreadTask extends JobTask {
  port: MessagePort;
  isAlone: boolean;
}

/** Entry of the threads that jobs run in. Errors cross as plain data; what was there when it was refused is drawn in the colour of faults. */
export default async function run(task: ThreadTask): Promise<JobOutcome> {
  const { ask, port } = task;
  const tell = (news: JobNews): void => port.postMessage(news);
  const looks = new Map<number, Look>();
  let drawnAt = 0;
  let isNew = false;
  const draw = (fault: number | null): void =>
    tell({ picture: drawLooks([...looks.values()], task, ask.plane, fault) });
  const drawNew = (): void => {
    if (!isNew || Date.now() - drawnAt < EVERY) return;
    drawnAt = Date.now();
    isNew = false;
    draw(null);
  };
  let part = 0;
  try {
    const { triangles, lines, loops } = inputOf(task.input, ask);
    const input =
      ask.densities.length > 0 ? painted(triangles, ask.densities, ask.plane) : { triangles, density: null };
    const laid = layAll(
      input.triangles,
      { ...ask, lines, loops, density: input.density },
      {
        stage(stage, done) {
          // what came too soon after the last picture is not left out
          drawNew();
          tell({ stage, done });
        },
        look(look) {
          part = look.part;
          looks.set(look.part, look);
          isNew = true;
          drawNew();
        },
        now: () => performance.now(),
      },
      task.isAlone ? new ThreadAside(new URL('./asideWorker.js', import.meta.url)) : null,
    );
    draw(null);
    tell({ stage: 'Measure', done: 1 });
    return {
      bytes: encodeMesh(meshFromSoup(quadSoup(laid.soup)).mesh),
      measures: measuresOf(laid, triangles, ask.plane),
    };
  } catch (error) {
    if (looks.size > 0) draw(part);
    const code = error instanceof HalfLoopError ? error.code : 'INTERNAL';
    return { error: { code, message: error instanceof Error ? error.message : String(error) } };
  }
}

/** What there is to tell of what was laid over triangles. Cost: a search tree of them and 40,000 closest points. */
function measuresOf(
  laid: LaidAll,
  { positions, indices }: Triangles,
  plane: LayAllAsk['plane'],
): JobResult['measures'] {
  const { soup, routes, mended, seconds } = laid;
  const sum = (of: 'irregular' | 'interior'): number => routes.reduce((total, r) => total + r[of], 0);
  const surface = SculptSurface.build({ positions: Float32Array.from(positions), indices: Uint32Array.from(indices) });
  const whole = plane ? bothHalves(soup, plane) : soup;
  const { rms, max, worstAt } = compareSurfaces(shownSurface(whole), surface, seededRng(1));
  return {
    faces: soup.quads.length / 4,
    irregular: sum('irregular'),
    interior: sum('interior'),
    quality: qualityOf(soup.points, soup.quads).quality,
    distance: { typical: rms, worst: max, worstAt: [...worstAt] },
    mended,
    routes: routes.map(({ route }) => route),
    seconds,
  };
}

interface Input {
  triangles: Triangles;
  lines: DrawnLine[];
  loops: PolygonSoup | null;
}

/** What to lay on, and the lines and loops to follow there. */
function inputOf(input: Uint8Array, { piece, lines, levels, regions, followsLoops }: LayAllAsk): Input {
  if (piece === null) return { triangles: decodeSculpt(input), lines, loops: null };
  const mesh = decodeMesh(input);
  const loops = followsLoops ? soupFromMesh(mesh) : null;
  const triangles = sculptFromSoup(shapeOf(mesh, levels));
  const borders = regions ? pieceBorders(triangles, shapeValues(mesh, levels, regionOfFaces(mesh))) : [];
  return { triangles, lines: [...lines, ...borders], loops };
}
