import * as z from 'zod/mini';
import { TopologyError } from '../../errors';
import {
  addScaled,
  cross,
  distance,
  dot,
  length,
  lerp,
  meanPoint,
  planeDistance,
  scale,
  sub,
  type Vec3,
} from '../../math';
import { areaNormal, copyOf, facePatches, Rebuild, type PolyMesh } from '../../mesh';
import { ShapeBuilder } from '../../shapes';
import type { Ground } from '../ground';
import { operator, plural } from '../operator';
import { choice, count, degrees, proposedLength, shownWhen } from '../params';
import { only, pickedFaces } from '../picked';
import { withBorders } from './boreLoops';
import { circleIn, firstBelow, onTriangles, patchOf, roomIn, trianglesOf, type BoredPatch } from './boredPatch';

const Params = z.object({
  goes: choice('Goes', [['through', 'through the wall'], ['blind', 'down to a floor'], ['open', 'nowhere: an opening']], 'through'), // prettier-ignore
  radius: proposedLength('Radius'),
  depth: shownWhen(proposedLength('Depth'), 'goes', 'blind'),
  hold: proposedLength('Holding loop at', 'From the rim of the hole'),
  rows: shownWhen(count('Rows of its wall', { min: 1, max: 64, start: 1 }), 'goes', 'through', 'blind'),
  sides: count('Sides', { min: 0, max: 256, start: 0, hint: '0: as many as the faces around give' }),
  missing: choice('Where counts differ', [['refuse', 'say so'], ['insert', 'insert the missing loops']], 'refuse'), // prettier-ignore
  turn: degrees('Turned by', { min: -90, max: 90, start: 0 }),
});
type Params = z.infer<typeof Params>;

/**
 * Bores a round hole into a picked patch of faces: the patch becomes rows of quads from its border to the rim, with a holding loop beside
 * it, so that the hole has as many sides as the faces around give, and stays round when subdivided. Through: to a second
 * picked patch, or to the faces opposite, whose border must have the same count. The hole lies on the surface as it was.
 * Refuses (COUNTS_DIFFER) unequal borders, saying both, and (BAD_SIZE) a radius that does not fit. Cost: the faces.
 */
export const bore = operator({
  name: 'bore',
  title: 'Bore',
  params: Params,
  run(mesh, selection, p, ground) {
    const patches = facePatches(mesh, pickedFaces(mesh, selection, 'Pick the faces that the hole shall go through.')).map((g) => patchOf(mesh, g)); // prettier-ignore
    let [front] = patches;
    let far = p.goes === 'through' ? (patches[1] ?? opposite(mesh, front)) : null;
    if (patches.length > (far ? 2 : 1))
      throw new TopologyError('NO_WAY', `Pick one patch of faces, or two that lie opposite; ${plural(patches.length, 'patch', 'patches')} are picked.`); // prettier-ignore
    const both = far ? [front, far] : [front];
    const wanted =
      p.sides > 2 ? p.sides : p.missing === 'insert' ? Math.max(...both.map(({ border }) => border.length)) : 0;
    if (wanted > 0) [front, far = null] = withBorders(mesh, both, wanted, ground);
    const radius = p.radius ?? 0.6 * roomIn(mesh, front);
    if (far && far.border.length !== front.border.length)
      throw new TopologyError('COUNTS_DIFFER', `The border here has ${front.border.length} edges, the one opposite ${far.border.length}: insert the missing loops, ${plural(Math.abs(front.border.length - far.border.length) / 2, 'loop')} on the side with fewer.`, { faces: far.faces }); // prettier-ignore
    const rim = rimOn(mesh, front, circleIn(mesh, front, radius, (p.turn * Math.PI) / 180), radius, front.normal);
    const farRim = far && rimOn(mesh, far, rim, radius, front.normal);
    const hold = p.hold ?? radius * 0.15;
    // laid onto the surface while it is still there
    const held = heldOn(mesh, front, rim, hold, radius, front.normal);
    const farOrder = far && farRim && reversedTo(mesh, far, farRim);
    const farHeld = far && farOrder && heldOn(mesh, far, farOrder, hold, radius, front.normal);
    const work = new Work(mesh, front, far);
    const ring = work.ring(front, held, rim);
    let faces = front.border.length * 2;
    if (far && farRim && farOrder && farHeld) {
      const back = work.ring(far, farHeld, farOrder);
      // the far ring as the near one counts
      const matched = rim.map((_, i) => back[farOrder.indexOf(farRim[i])]);
      faces += front.border.length * 2 + work.wall(ring, matched, p.rows);
    } else if (p.goes === 'blind') faces += work.floor(ring, floorPoints(rim, front, p.depth ?? radius), p.rows);
    const made = work.finish();
    refuseAcross(mesh, made, front, ground);
    const goes = far ? 'through the wall' : p.goes === 'blind' ? `${Number((p.depth ?? radius).toPrecision(4))} deep` : 'as an opening'; // prettier-ignore
    return {
      selection: only({ faces: made }),
      report: {
        sentence: `Hole of ${plural(rim.length, 'side')} bored ${goes}, ${plural(faces, 'face')} in place of ${front.faces.length + (far?.faces.length ?? 0)}`,
        counts: { sides: rim.length, radius, hold, faces, depth: p.goes === 'blind' ? (p.depth ?? radius) : 0 },
      },
    };
  },
});

/** Refuses a hole that reaches over the midline: deeper than the half that it is bored into, or leaning across. */
function refuseAcross(mesh: PolyMesh, faces: readonly number[], { border }: BoredPatch, { plane }: Ground): void {
  if (!plane) return;
  const off = (v: number): number => planeDistance(mesh.point(v), plane);
  const side = Math.sign(border.map(off).find((d) => d !== 0) ?? 1);
  const across = [...new Set(faces.flatMap((f) => mesh.faceVertices(f)))].filter((v) => off(v) * side < 0);
  if (across.length > 0)
    throw new TopologyError('OFF_MIDLINE', 'The hole would reach across the midline, where the mirrored half is; make it less deep or smaller, or make the mirror real first.', { vertices: [...border] }); // prettier-ignore
}

/** The circle laid onto the patch along the axis. Throws BAD_SIZE when it does not fit. */
function rimOn(mesh: PolyMesh, patch: BoredPatch, circle: readonly Vec3[], radius: number, axis: Vec3): Vec3[] {
  const room = roomIn(mesh, patch);
  const triangles = trianglesOf(mesh, patch.faces);
  const points = circle.map((q) => onTriangles(triangles, q, axis));
  if (radius > room || points.includes(null))
    throw new TopologyError('BAD_SIZE', `A hole of radius ${Number(radius.toPrecision(4))} does not fit into these faces; at most ${Number(room.toPrecision(3))} does, or pick more faces round it.`, { faces: patch.faces }); // prettier-ignore
  return points as Vec3[];
}

/** The holding loop round a rim, on the patch; no further out than half-way to its border. */
function heldOn(
  mesh: PolyMesh,
  { border, faces }: BoredPatch,
  rim: readonly Vec3[],
  hold: number,
  radius: number,
  axis: Vec3,
): Vec3[] {
  const centre = meanPoint(rim);
  const triangles = trianglesOf(mesh, faces);
  return rim.map((q, i) => {
    const away = lerp(centre, q, 1 + hold / radius);
    const half = lerp(q, mesh.point(border[i]), 0.5);
    const at = distance(away, q) < distance(half, q) ? away : half;
    return onTriangles(triangles, at, axis) ?? at;
  });
}

/** The faces that lie opposite a patch, straight through the wall. Throws NO_WAY when there are none. */
function opposite(mesh: PolyMesh, { faces, border, centre, normal }: BoredPatch): BoredPatch {
  const down = scale(normal, -1);
  const beside = (p: Vec3): number => length(cross(sub(p, centre), normal));
  const reach = Math.max(...border.map((v) => beside(mesh.point(v))));
  const own = new Set(faces);
  // what lies in the patch's shadow and looks the other way
  const behind = [...mesh.faces()].filter((f) => {
    if (own.has(f)) return false;
    const corners = mesh.faceVertices(f).map((v) => mesh.point(v));
    return (
      corners.some((p) => beside(p) <= reach && dot(sub(p, centre), down) > 0) && dot(areaNormal(corners), down) > 0
    );
  });
  const triangles = trianglesOf(mesh, behind);
  const found = new Set<number>();
  for (const f of faces) {
    const hit = firstBelow(triangles, meanPoint(mesh.faceVertices(f).map((v) => mesh.point(v))), down);
    if (hit !== null) found.add(hit);
  }
  if (found.size === 0)
    throw new TopologyError('NO_WAY', 'There is no wall on the far side to come out of; bore down to a floor, or pick both patches.', { faces }); // prettier-ignore
  return patchOf(mesh, [...found]);
}

/** A far rim in the order of its own patch's border: the other way round, begun where it lies nearest. */
function reversedTo(mesh: PolyMesh, { border }: BoredPatch, rim: readonly Vec3[]): Vec3[] {
  const back = [...rim].reverse();
  const n = rim.length;
  const way = (s: number): number => border.reduce((sum, v, i) => {
    const d = sub(mesh.point(v), back[(i + s) % n]);
    return sum + dot(d, d);
  }, 0); // prettier-ignore
  const start = back.map((_, s) => s).reduce((a, b) => (way(b) < way(a) ? b : a));
  return back.map((_, i) => back[(i + start) % n]);
}

/** The floor of a blind hole: flat, square to the axis, `depth` below the middle of the rim. */
function floorPoints(rim: readonly Vec3[], { centre, normal }: BoredPatch, depth: number): Vec3[] {
  const mean = rim.reduce((s, q) => s + dot(sub(q, centre), normal), 0) / rim.length;
  return rim.map((q) => addScaled(q, normal, mean - depth - dot(sub(q, centre), normal)));
}

/** The faces of one hole while they are made. */
class Work {
  private readonly rebuild: Rebuild;
  private like: number;

  constructor(
    private readonly mesh: PolyMesh,
    front: BoredPatch,
    far: BoredPatch | null,
  ) {
    this.rebuild = new Rebuild(mesh, [...front.faces, ...(far?.faces ?? [])]);
    this.like = front.beside[0];
  }

  /** Two rows of quads from a patch's border to a rim: up to the holding loop, and from it. */
  ring({ border, beside }: BoredPatch, held: readonly Vec3[], rim: readonly Vec3[]): number[] {
    const { rebuild } = this;
    const [outer, inner] = [held, rim].map((points) => points.map((q, i) => rebuild.vertex(q, copyOf(border[i]))));
    const n = border.length;
    for (const [low, high] of [[border, outer], [outer, inner]] as const)
      for (let i = 0; i < n; i++) rebuild.face([low[i], low[(i + 1) % n], high[(i + 1) % n], high[i]], beside[i]); // prettier-ignore
    return inner;
  }

  /** The wall between two rims; returns how many faces it took. */
  wall(from: readonly number[], to: readonly number[], rows: number): number {
    const n = from.length;
    const lines = Array.from({ length: rows + 1 }, (_, k) => {
      if (k === 0) return [...from];
      if (k === rows) return [...to];
      return from.map((v, i) =>
        this.rebuild.vertex(lerp(this.mesh.point(v), this.mesh.point(to[i]), k / rows), copyOf(v)),
      );
    });
    for (let k = 0; k < rows; k++)
      for (let i = 0; i < n; i++) {
        const j = (i + 1) % n;
        this.rebuild.face([lines[k][i], lines[k][j], lines[k + 1][j], lines[k + 1][i]], this.like);
      }
    return n * rows;
  }

  /** The wall down to a floor, and the floor: quads where its count is even, else one n-gon. */
  floor(rim: readonly number[], points: readonly Vec3[], rows: number): number {
    const plan = new ShapeBuilder();
    const ring = points.map((q) => plan.point(q));
    plan.cap(ring, ring.length % 2 === 0 ? 'quads' : 'ngon', true);
    const made = plan.points.map((q, i) => this.rebuild.vertex(q, copyOf(rim[i % rim.length])));
    const wall = this.wall(rim, made.slice(0, ring.length), rows);
    for (const face of plan.faces) this.rebuild.face(face.map((i) => made[i]), this.like); // prettier-ignore
    return wall + plan.faces.length;
  }

  finish(): number[] {
    return this.rebuild.finish();
  }
}
