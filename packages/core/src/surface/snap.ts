import { add, addScaled, dot, frameOf, normalize, scale, sub, distance, type Vec3 } from '../math';
import type { SculptSurface, SurfaceHit } from './SculptSurface';

/** From where the model is looked at. */
export interface ViewPoint {
  eye: Vec3;
}

export interface SnapOptions {
  /** how far beside the pointer a surface may lie, as a slope: distance beside over distance ahead */
  reach: number;
  /** points behind the first surface count too, as long as they face this way */
  through: boolean;
  /** triangles that are not there for this view */
  isHidden?: (triangle: number) => boolean;
}

/** So many layers a ray goes through, one behind the other. */
const MOST_LAYERS = 16;

export const SNAP_DEFAULTS: SnapOptions = { reach: 0.02, through: false };
/** A surface this close before a point, over the diagonal, is the point's own. */
const SELF = 1e-6;

/** Whether the surface at `hit` turns towards the eye. */
export const facesEye = (hit: SurfaceHit, view: ViewPoint): boolean => dot(hit.normal, sub(view.eye, hit.point)) > 0;

/** Whether nothing stands between the eye and a point of the surface. */
export function isSeen(
  surface: SculptSurface,
  p: Vec3,
  view: ViewPoint,
  isHidden: SnapOptions['isHidden'] = undefined,
): boolean {
  const d = distance(p, view.eye);
  const first = firstHit(surface, view.eye, sub(p, view.eye), (hit) => isHidden?.(hit.triangle) === true);
  return first === null || first.distance >= d - SELF * surface.diagonal;
}

/**
 * Where a pointer's ray lands: the first surface along it, when that faces the eye. Where the ray meets nothing, or a
 * back, the nearest seen and facing surface within `reach` beside it, tried ring by ring; null when there is none.
 * With `through` the first facing surface counts, whatever hides it. Cost: one query, up to 40 beside the model.
 */
export function snapRay(
  surface: SculptSurface,
  view: ViewPoint,
  direction: Vec3,
  options: SnapOptions = SNAP_DEFAULTS,
): SurfaceHit | null {
  const { reach } = options;
  const d = normalize(direction);
  const straight = firstFacing(surface, view, d, options);
  if (straight) return straight;
  const [u, v] = frameOf(d);
  for (let ring = 1; ring <= 5; ring++) {
    const r = (reach * ring) / 5;
    for (let k = 0; k < 8; k++) {
      const a = ((k + (ring % 2) / 2) * Math.PI) / 4;
      const beside = addScaled(addScaled(d, u, r * Math.cos(a)), v, r * Math.sin(a));
      const hit = firstFacing(surface, view, beside, options);
      if (hit) return hit;
    }
  }
  return null;
}

function firstFacing(
  surface: SculptSurface,
  view: ViewPoint,
  direction: Vec3,
  { through, isHidden }: SnapOptions,
): SurfaceHit | null {
  const goesOn = (hit: SurfaceHit): boolean => isHidden?.(hit.triangle) === true || (through && !facesEye(hit, view));
  const hit = firstHit(surface, view.eye, direction, goesOn);
  return hit && facesEye(hit, view) ? hit : null;
}

/** The first hit along a ray that `goesOn` does not let it through; null where there is none, or only behind many others. Cost: a ray for each. */
export function firstHit(
  surface: SculptSurface,
  origin: Vec3,
  direction: Vec3,
  goesOn: (hit: SurfaceHit) => boolean,
): SurfaceHit | null {
  let hit = surface.raycast(origin, direction);
  for (let i = 0; hit && goesOn(hit); i++) {
    if (i === MOST_LAYERS) return null;
    hit = surface.raycast(origin, direction, hit.distance + SELF * surface.diagonal);
  }
  return hit;
}

/**
 * Where a point near the surface sticks: the closest point of the surface when the eye sees it and it faces
 * the eye, else what the ray from the eye through the point lands on, within reach. Null when neither is.
 */
export function snapPoint(
  surface: SculptSurface,
  view: ViewPoint,
  p: Vec3,
  options: SnapOptions = SNAP_DEFAULTS,
): SurfaceHit | null {
  const near = surface.closest(p);
  const { through, isHidden } = options;
  if (facesEye(near, view) && !isHidden?.(near.triangle) && (through || isSeen(surface, near.point, view, isHidden)))
    return near;
  return snapRay(surface, view, sub(p, view.eye), options);
}

/** A plane to lay on where there is no sculpt. */
export interface WorkPlane {
  point: Vec3;
  normal: Vec3;
}

/** Where a ray meets a work plane, or null when it runs along it or away from it. */
export function rayOnPlane(view: ViewPoint, direction: Vec3, plane: WorkPlane): Vec3 | null {
  const d = normalize(direction);
  const slope = dot(d, plane.normal);
  if (Math.abs(slope) < 1e-6) return null;
  const t = dot(sub(plane.point, view.eye), plane.normal) / slope;
  return t > 0 ? add(view.eye, scale(d, t)) : null;
}

/** p moved onto the plane along its normal. */
export const ontoWorkPlane = (p: Vec3, plane: WorkPlane): Vec3 =>
  addScaled(p, plane.normal, dot(sub(plane.point, p), plane.normal));
