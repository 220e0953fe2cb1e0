import { axisIndex, isOnPlane, type MirrorPlane, type Vec3 } from '../../math';
import type { SculptSurface } from '../../surface';
import { areaOf } from './sizes';
import { surfaceOf } from './surfaceOf';
import { TriMesh } from './TriMesh';

/** About so many points tell whether a part lies within another. */
const ASKED = 32;
/** Less volume than this, over its area to the power of three halves, tells no side: two sheets back to back. */
const FLAT = 1e-6;
/** A part is closed but for small holes, such as a horn's open tip or a bottle's mouth, if all its borders together, squared, are less than this share of its area. */
const OPEN = 0.3;
const NONE = -1;

/**
 * Parts turned over that are closed, but for small holes, and face inward, as what was mirrored by a negative scale does: nothing would be seen of them in an engine. Parts that lie within another wholly are the walls of its hollows, and stay. A border in the mirror
 * `plane` is none. Gives how many were turned, too. Cost: one pass; where a part faces inward a BVH of each other.
 */
export function facingOutward(
  parts: readonly TriMesh[],
  plane: MirrorPlane | null,
): { parts: TriMesh[]; turned: number } {
  const volumes = parts.map((mesh) => volumeOf(mesh, plane));
  const outer = parts.filter((_, i) => volumes[i] > 0).map((mesh) => ({ mesh, surface: null as SculptSurface | null }));
  const isWithin = (mesh: TriMesh): boolean => {
    const places = placesOn(mesh);
    return outer.some((one) => {
      const surface = (one.surface ??= surfaceOf(one.mesh));
      return places.every((p) => surface.signedDistance(p) < 0);
    });
  };
  let turned = 0;
  const made = parts.map((mesh, i) => {
    if (volumes[i] >= 0 || isWithin(mesh)) return mesh;
    turned++;
    return turnedOver(mesh);
  });
  return { parts: made, turned };
}

/** What a part encloses that is closed but for small holes, below zero where it faces inward; 0 for open ones, and for flat ones. */
function volumeOf(mesh: TriMesh, plane: MirrorPlane | null): number {
  const { points: p, from, twin } = mesh;
  const at = (v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  const inPlane = (v: number): boolean => plane !== null && isOnPlane(at(v), plane);
  // seen from the plane, a border there encloses nothing; else any point will do, one near by best
  const o: [number, number, number] = [p[0], p[1], p[2]];
  if (plane) o[axisIndex(plane.axis)] = plane.offset;
  let [volume, area, rim] = [0, 0, 0];
  for (let h = 0; h < 3 * mesh.triangles; h += 3) {
    for (let k = h; k < h + 3; k++)
      if (twin[k] === NONE && !(inPlane(from[k]) && inPlane(mesh.to(k)))) rim += Math.sqrt(mesh.squaredLength(k));
    const [a, b, c] = [3 * from[h], 3 * from[h + 1], 3 * from[h + 2]];
    const ax = p[a] - o[0], ay = p[a + 1] - o[1], az = p[a + 2] - o[2]; // prettier-ignore
    const bx = p[b] - o[0], by = p[b + 1] - o[1], bz = p[b + 2] - o[2]; // prettier-ignore
    const cx = p[c] - o[0], cy = p[c + 1] - o[1], cz = p[c + 2] - o[2]; // prettier-ignore
    volume += (ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx)) / 6;
    area += areaOf(mesh, h / 3);
  }
  const isClosed = rim * rim < OPEN * area;
  return isClosed && Math.abs(volume) > FLAT * area ** 1.5 ? volume : 0;
}

function placesOn({ points: p, vertices }: TriMesh): Vec3[] {
  const step = Math.max(1, Math.floor(vertices / ASKED));
  const places: Vec3[] = [];
  for (let v = 0; v < vertices; v += step) places.push([p[3 * v], p[3 * v + 1], p[3 * v + 2]]);
  return places;
}

/** The same with each triangle the other way round: (a b c) becomes (a c b). */
function turnedOver(mesh: TriMesh): TriMesh {
  const count = 3 * mesh.triangles;
  const corners = new Int32Array(count);
  const twin = new Int32Array(count);
  // the first and the last half-edge of a triangle change places
  const moved = (h: number): number => h + [2, 0, -2][h % 3];
  for (let h = 0; h < count; h++) {
    corners[h] = mesh.from[h % 3 === 0 ? h : h % 3 === 1 ? h + 1 : h - 1];
    const other = mesh.twin[h];
    twin[moved(h)] = other === NONE ? NONE : moved(other);
  }
  return new TriMesh(mesh.points.slice(0, 3 * mesh.vertices), corners, twin);
}
