import { normalize, seededRng, sub, type Vec3 } from '@half-loop/core/math';
import { meshFromSoup } from '@half-loop/core/mesh';
import { PickGrid } from '@half-loop/core/pick';
import { sculptFromSoup, SculptSurface, snapPoint, snapRay } from '@half-loop/core/surface';
import { ballSoup } from '@half-loop/core/testing';
import { BufferAttribute, BufferGeometry, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import { ms, pair, RINGS, say, time } from './measure';

/** What a pointer that moves over the model costs. */
export async function hover(): Promise<void> {
  const surface = SculptSurface.build(sculptFromSoup(ballSoup(RINGS, 10)));
  const low = meshFromSoup(ballSoup(112, 10.01)).mesh;
  const grid = new PickGrid(low, 0.55);
  const rng = seededRng(4);
  const aim = (): { eye: Vec3; d: Vec3 } => {
    const eye: Vec3 = normalize([rng() - 0.5, rng() - 0.5, rng() - 0.5]).map((x) => x * 40) as unknown as Vec3;
    return { eye, d: normalize(sub([rng() * 12 - 6, rng() * 12 - 6, rng() * 12 - 6], eye)) };
  };
  const rays = Array.from({ length: 400 }, aim);
  let i = 0;
  const next = (): { eye: Vec3; d: Vec3 } => rays[i++ % rays.length];
  say(
    `\nPointer hover: pick on ${low.faceCount.toLocaleString('en')} faces, snap on ${surface.triangleCount.toLocaleString('en')} triangles; per query`,
  );
  const pick = await time(() => {
    const { eye, d } = next();
    const face = grid.raycast(eye, d);
    return grid.nearest(eye, d, 0.004, face ? face.distance + grid.cell / 2 : Infinity, { vertices: [], edges: [] });
  }, 400);
  const snap = await time(() => {
    const { eye, d } = next();
    return snapRay(surface, { eye }, d);
  }, 400);
  const stick = await time(() => {
    const { eye, d } = next();
    return snapPoint(surface, { eye }, [eye[0] + d[0] * 31, eye[1] + d[1] * 31, eye[2] + d[2] * 31]);
  }, 400);
  say(`  pick ${ms(pick)}\n  snap ${ms(snap)}\n  stick a moved point ${ms(stick)}`);
  await nearest(surface);
}

/** Nearest points of places beside a surface, over the same tree by our search and by the package's own. */
async function nearest(surface: SculptSurface): Promise<void> {
  const { positions: p, indices } = surface;
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(p, 3));
  geometry.setIndex(new BufferAttribute(indices.slice(), 1));
  const tree = new MeshBVH(geometry, { targetLeafSize: 8 });
  const rng = seededRng(5);
  const places = Array.from({ length: 10_000 }, (): Vec3 => {
    const v = 3 * Math.floor((rng() * p.length) / 3);
    return [0, 1, 2].map((k) => p[v + k] + 0.2 * (rng() - 0.5)) as unknown as Vec3;
  });
  const asked = new Vector3();
  const target = { point: new Vector3(), distance: 0, faceIndex: 0 };
  const { ours, theirs, ratio } = await pair(
    () => places.forEach((q) => surface.closest(q)),
    () => places.forEach((q) => tree.closestPointToPoint(asked.set(...q), target)),
  );
  say(`  nearest points of ${places.length.toLocaleString('en')} places ${ms(ours)}; three-mesh-bvh ${ms(theirs)}; ratio ${ratio.toFixed(2)}`); // prettier-ignore
}
