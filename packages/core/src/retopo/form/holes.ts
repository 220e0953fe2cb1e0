import { borderLoops } from './borderLoops';
import type { TriMesh } from './TriMesh';

const NONE = -1;

/**
 * Closes border loops shorter than `around` by fans of triangles to their middles, but for those that `isKept` names by a half-edge of theirs: no quads would fit
 * round them. Lines and corners along them go: `gone` are those of which nothing is left. Gives how many were closed. Cost: the borders, and one pass where any was.
 */
export function closeHoles(
  mesh: TriMesh,
  corners: Uint8Array,
  around: number,
  isKept: (h: number) => boolean,
): { closed: number; corners: Uint8Array; gone: ReadonlySet<number> } {
  const marks = [...corners];
  const gone = new Set<number>();
  let closed = 0;
  const end = 3 * mesh.triangles;
  for (const loop of borderLoops(mesh)) {
    if (lengthOf(mesh, loop) >= around || loop.length < 3 || loop.some(isKept)) continue;
    fan(mesh, loop);
    for (const h of loop) {
      gone.add(mesh.line[h]);
      mesh.setLine(h, NONE);
      const v = mesh.from[h];
      if (mesh.fan(v).every((g) => mesh.line[g] < 0)) marks[v] = 0;
    }
    marks[mesh.vertices - 1] = 0;
    closed++;
  }
  if (closed > 0) for (let h = 0; h < end; h++) if (mesh.isAlive(Math.floor(h / 3))) gone.delete(mesh.line[h]);
  return { closed, corners: Uint8Array.from(marks), gone };
}

const lengthOf = (mesh: TriMesh, halves: readonly number[]): number =>
  halves.reduce((sum, h) => sum + Math.sqrt(mesh.squaredLength(h)), 0);

function fan(mesh: TriMesh, loop: readonly number[]): void {
  mesh.makeRoom();
  const centre = mesh.vertices++;
  for (let k = 0; k < 3; k++) {
    let [place, facing] = [0, 0];
    for (const h of loop) {
      place += mesh.points[3 * mesh.from[h] + k] / loop.length;
      facing += mesh.facing[3 * mesh.from[h] + k] / loop.length;
    }
    mesh.points[3 * centre + k] = place;
    mesh.facing[3 * centre + k] = facing;
  }
  const made = loop.map((h) => {
    mesh.makeRoom();
    const t = 3 * mesh.triangles++;
    const [u, v] = [mesh.from[h], mesh.to(h)];
    mesh.from.set([v, u, centre], t);
    mesh.line.fill(NONE, t, t + 3);
    mesh.twin[t] = h;
    mesh.twin[h] = t;
    return t;
  });
  made.forEach((t, i) => {
    // u → centre runs beside centre → v of the triangle before
    const before = made[(i + made.length - 1) % made.length];
    mesh.twin[t + 1] = before + 2;
    mesh.twin[before + 2] = t + 1;
  });
  for (const h of loop) mesh.settleOut(mesh.from[h], h);
  mesh.settleOut(centre, made[0] + 2);
}
