import { EMPTY_SELECTION, faceNormal, PolyMesh, soupFromMesh, type Selection } from '../../mesh';
import type { Vec3 } from '../../math';
import { sculptFromSoup, SculptSurface, WalkingForm } from '../../surface';
import { OPERATORS, runOperator, type Ground, type Operator } from '..';

/** Runs an operator by its name. */
export const run = (
  mesh: PolyMesh,
  name: string,
  params: object,
  selection: Partial<Selection> = {},
  ground?: Ground,
): ReturnType<typeof runOperator> =>
  runOperator(mesh, OPERATORS.get(name) as Operator, { ...EMPTY_SELECTION, ...selection }, params as never, ground);
/** A shape as a form. */
export function surfaceOf(shape: string, params: object): SculptSurface {
  const mesh = new PolyMesh();
  run(mesh, shape, params);
  return SculptSurface.build(sculptFromSoup(soupFromMesh(mesh)));
}
export const groundOn = (surface: SculptSurface): Ground => ({ plane: null, form: new WalkingForm(surface) });
export const isQuads = (mesh: PolyMesh): boolean => [...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4);
/** Whether every face looks away from a centre. */
export const facesOut = (mesh: PolyMesh, centre: (p: Vec3) => Vec3): boolean =>
  [...mesh.faces()].every((f) => {
    const n = faceNormal(mesh, f);
    const p = mesh.point(mesh.faceVertices(f)[0]);
    const c = centre(p);
    return n[0] * (p[0] - c[0]) + n[1] * (p[1] - c[1]) + n[2] * (p[2] - c[2]) > 0;
  });

/** A tall cylinder round y, its wall from y = 0 to 10, of radius 1. */
export const cylinder = surfaceOf('cylinder', { radius: 1, height: 10, sides: 96, rings: 40, ends: 'fan' });
export const ball = surfaceOf('ball', { radius: 2, cells: 40, at: [0, -2, 0] });
