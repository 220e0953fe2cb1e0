import type { Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, PolyMesh, type Selection } from '@half-loop/core/mesh';
import { OPERATORS, runOperator, type Operator } from '@half-loop/core/ops';

const RADIUS = 4;
const HEIGHT = 14;
/** Where the straight wall begins and ends. */
const WALL = [RADIUS, HEIGHT - RADIUS] as const;

/** The Mail capsule while it is built: every step is an operator, as a person would do it from the cards. */
class Build {
  readonly mesh = new PolyMesh();

  do(name: string, params: object, selection: Selection = EMPTY_SELECTION): Selection {
    return runOperator(this.mesh, OPERATORS.get(name) as Operator, selection, params as never).selection;
  }

  /** Faces whose points all hold; angle is degrees round y from the front. */
  faces(holds: (angle: number, y: number) => boolean): Selection {
    const { mesh } = this;
    const all = [...mesh.faces()].filter((f) => {
      const points = mesh.faceVertices(f).map((v) => mesh.point(v));
      const middle = [0, 1, 2].map((k) => points.reduce((s, p) => s + p[k], 0) / points.length) as unknown as Vec3;
      return Math.hypot(middle[0], middle[2]) > RADIUS * 0.9 && holds(angleOf(middle), middle[1]);
    });
    return { ...EMPTY_SELECTION, faces: all };
  }

  /** The loop round the wall at a height. */
  loop(y: number): number[] {
    const { mesh } = this;
    const at = (v: number): boolean => Math.abs(mesh.point(v)[1] - y) < 1e-6 && Math.hypot(mesh.point(v)[0], mesh.point(v)[2]) > RADIUS * 0.99; // prettier-ignore
    return [...mesh.edges()].filter((e) => at(mesh.origin(2 * e)) && at(mesh.target(2 * e)));
  }
}

const angleOf = ([x, , z]: Vec3): number => (Math.atan2(x, z) * 180) / Math.PI;

/**
 * The Mail capsule's low-poly: a brass capsule with a round hatch bored into its wall, a slot on each side, and a rim of studs above
 * and below, creased where it is sharp. Starts from a shape; there is no sculpt.
 */
export function mailCapsule(): PolyMesh {
  const build = new Build();
  build.do('capsule', { radius: RADIUS, height: HEIGHT, sides: 24, rings: 3, belts: 6, ends: 'quads' });
  const [low, high] = WALL;
  const hatch = build.faces((angle, y) => Math.abs(angle) < 30 && y > low + 1 && y < high - 1);
  build.do('bore', { goes: 'blind', radius: 1.55, depth: 0.7, hold: 0.22, rows: 2 }, hatch);
  for (const side of [90, -90]) {
    const slot = build.faces((angle, y) => Math.abs(angle - side) < 15 && y > low + 1 && y < high - 1);
    build.do('extrude', { distance: -0.5 }, build.do('inset', { width: 0.22 }, slot));
  }
  const stud = build.do('cylinder', { radius: 0.26, height: 0.3, sides: 6, ends: 'quads', at: [20, 0, 0] });
  for (const y of [low, high])
    build.do('studs', { count: 12, sink: 0.08 }, { ...EMPTY_SELECTION, edges: build.loop(y), faces: [stud.faces[0]] });
  build.do('delete', {}, { ...EMPTY_SELECTION, faces: stud.faces });
  build.do('crease', { which: 'angle', angle: 42, weight: 2 });
  return build.mesh;
}
