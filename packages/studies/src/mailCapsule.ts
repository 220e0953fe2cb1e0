import { plainPiece, type Piece, type RecipeStep } from '@half-loop/contract';
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
}

const angleOf = ([x, , z]: Vec3): number => (Math.atan2(x, z) * 180) / Math.PI;

/**
 * The Mail capsule's pieces: a brass capsule with a round hatch bored into its wall and a slot on each side, creased where it is sharp; and
 * one stud, whose recipe sets twelve round the rim and as many round the lower one. Both recipes are open. Starts from
 * shapes; there is no sculpt.
 */
export function mailCapsule(): Piece[] {
  return [
    {
      ...plainPiece('low-poly', 'Capsule', capsuleBody()),
      recipe: [{ op: 'subdivide', on: false, params: { levels: 1 } }],
    },
    { ...plainPiece('studs', 'Studs', stud()), recipe: studRecipe() },
  ];
}

function capsuleBody(): PolyMesh {
  const build = new Build();
  build.do('capsule', { radius: RADIUS, height: HEIGHT, sides: 24, rings: 3, belts: 6, ends: 'quads' });
  const [low, high] = WALL;
  const hatch = build.faces((angle, y) => Math.abs(angle) < 30 && y > low + 1 && y < high - 1);
  build.do('bore', { goes: 'blind', radius: 1.55, depth: 0.7, hold: 0.22, rows: 2 }, hatch);
  for (const side of [90, -90]) {
    const slot = build.faces((angle, y) => Math.abs(angle - side) < 15 && y > low + 1 && y < high - 1);
    build.do('extrude', { distance: -0.5 }, build.do('inset', { width: 0.22 }, slot));
  }
  build.do('crease', { which: 'angle', angle: 42, weight: 2 });
  return build.mesh;
}

/** One stud, lying on the wall at the front of the lower rim. */
function stud(): PolyMesh {
  const build = new Build();
  build.do('cylinder', { radius: 0.26, height: 0.3, sides: 6, ends: 'quads' });
  build.do('settle', { goes: 'to', x: 0, y: WALL[0], z: RADIUS - 0.08, tx: 90 });
  build.do('crease', { which: 'angle', angle: 42, weight: 2 });
  return build.mesh;
}

const studRecipe = (): RecipeStep[] => [
  { op: 'copies', on: true, params: { arranged: 'ring', axis: 'y', count: 12 } },
  { op: 'copies', on: true, params: { arranged: 'line', axis: 'y', count: 2, step: WALL[1] - WALL[0] } },
];
