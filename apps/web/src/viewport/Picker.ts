import {
  addScaled,
  directionAcross,
  directionFromPlaced,
  distance,
  fromPlaced,
  mirrored,
  nearestOnLine,
  toPlaced,
  type MirrorPlane,
  type Placement,
  type Vec3,
} from '@half-loop/core/math';
import { NONE, type PolyMesh, type Touched } from '@half-loop/core/mesh';
import { PickGrid } from '@half-loop/core/pick';
import {
  facesEye,
  firstHit,
  rayOnPlane,
  snapRay,
  type SculptSurface,
  type SnapOptions,
  type SurfaceHit,
  type ViewPoint,
  type WorkPlane,
} from '@half-loop/core/surface';
import type { Session } from '../session';
import { isHiddenFace } from './hiddenFaces';
import { PieceSurfaces } from './PieceSurfaces';
import type { ViewCamera } from './ViewCamera';
import type { ViewState } from './ViewState';

export interface ElementHit {
  kind: 'vertex' | 'edge' | 'face';
  id: number;
  /** the pointer is on its mirror image */
  mirrored: boolean;
  along: number;
}

/** What lies under a pixel: the low-poly's element, and where a new point would land. File space. */
export interface Hit {
  x: number;
  y: number;
  view: ViewPoint;
  direction: Vec3;
  element: ElementHit | null;
  /** of a pen, 0 to 1 */
  pressure?: number;
  /** the key that makes drags catch is held */
  catching?: boolean;
  landing: { point: Vec3; normal: Vec3 } | null;
}

const VERTEX_PX = 10;
const EDGE_PX = 8;
/** Of an edge's seen length: nearer to an end than this is the vertex; so a short edge and a small face keep a middle of their own. */
const MIDDLE = 0.3;
/** Of the sculpt's diagonal: the low-poly is seen this far behind it. */
export const SCULPT_LIFT = 0.03;
/** A snap may look this far beside the pointer for a surface, pixels. */
const REACH_PX = 14;

/** Finds what the pointer is on. Keeps a grid over the low-poly that edits update in place. */
export class Picker {
  grid: PickGrid;
  readonly surfaces: PieceSurfaces;

  constructor(
    private readonly session: Session,
    private readonly camera: ViewCamera,
    private readonly view: ViewState,
    private readonly placement: () => Placement,
  ) {
    this.surfaces = new PieceSurfaces(session);
    this.grid = this.freshGrid();
  }

  rebuild(): void {
    this.surfaces.clear();
    this.grid = this.freshGrid();
  }
  update(touched: Touched): void {
    this.grid.update(touched);
  }

  /** File-space ray through a pixel. */
  ray(x: number, y: number): { view: ViewPoint; direction: Vec3 } {
    const placement = this.placement();
    return {
      view: { eye: fromPlaced(this.camera.eye, placement) },
      direction: directionFromPlaced(this.camera.direction(x, y), placement),
    };
  }

  hit(x: number, y: number): Hit {
    const { view, direction } = this.ray(x, y);
    const px = this.camera.pixelSize(1);
    const landing = this.landing(view, direction, px * REACH_PX);
    return { x, y, view, direction, element: this.element(view, direction, px), landing };
  }

  /** Where the pointer meets the low-poly, or its mirror image, in sight. */
  onLowPoly({ view, direction }: Hit): { point: Vec3; face: number; mirrored: boolean } | null {
    const { plane } = this.session;
    const own = this.grid.raycast(view.eye, direction);
    const image = plane ? this.grid.raycast(mirrored(view.eye, plane), directionAcross(direction, plane)) : null;
    const isImage = image !== null && (own === null || image.distance < own.distance);
    const first = isImage ? image : own;
    if (!first) return null;
    return { point: addScaled(view.eye, direction, first.distance), face: first.face, mirrored: isImage };
  }

  /** Where a ray meets the sculpt first, as far as its regions are shown. */
  onSculpt({ view, direction }: Pick<Hit, 'view' | 'direction'>): SurfaceHit | null {
    const { surface } = this.session;
    const isHidden = surface && this.isHiddenOn(surface);
    return surface && firstHit(surface, view.eye, direction, ({ triangle }) => isHidden?.(triangle) === true);
  }

  /** Which triangles of a surface are hidden with their regions: those of the sculpt whose corners all are. */
  isHiddenOn(surface: SculptSurface): SnapOptions['isHidden'] {
    const { hiddenRegions } = this.view.now;
    if (surface !== this.session.surface || hiddenRegions.size === 0) return undefined;
    const { labels } = this.session.sculptRegions;
    const { indices } = surface;
    return (t) => [0, 1, 2].every((k) => hiddenRegions.has(labels[indices[3 * t + k]]));
  }

  /** Where a point of file space is seen. */
  pixelOf(p: Vec3): { x: number; y: number; along: number } {
    return this.camera.project(toPlaced(p, this.placement()));
  }

  /** Where points of file space (three numbers each) are seen, or their mirror images: pixel x, pixel y, distance along the view. */
  seenAll(positions: ArrayLike<number>, across: MirrorPlane | null): Float32Array {
    const { eye, directions } = this.camera.frameIn(this.placement());
    // the image of a point is seen as the point itself is from the eye's image
    const from = across ? mirrored(eye, across) : eye;
    const axes = directions.map((d) => (across ? directionAcross(d, across) : d));
    return this.camera.projectAll(positions, from, axes);
  }

  /** The surface that points stick to; null where it is the work plane. */
  stickSurface(): SculptSurface | null {
    return this.surfaces.of(this.view.now.stickTo);
  }

  /** The plane that points stick to when they do not stick to a surface. */
  workPlane(): WorkPlane | null {
    const { planeSide, planeOffset } = this.view.now;
    if (this.stickSurface()) return null;
    const placement = this.placement();
    const placed: Vec3 = planeSide === 'front' ? [0, 0, 1] : planeSide === 'side' ? [1, 0, 0] : [0, 1, 0];
    const zero = fromPlaced([0, 0, 0], placement);
    const normal = directionFromPlaced(placed, placement);
    return { point: addScaled(zero, normal, planeOffset), normal };
  }

  private landing(view: ViewPoint, direction: Vec3, reach: number): Hit['landing'] {
    const on = this.surfaceLanding(view, direction, reach);
    const { guides } = this.session.settings;
    if (!on || guides.length === 0 || !this.view.now.catchGuides) return on;
    const within = this.camera.pixelSize(distance(on.point, view.eye)) * EDGE_PX;
    let best: Vec3 | null = null;
    for (const { points, closed } of guides) {
      const { point } = nearestOnLine(on.point, points, closed);
      const far = distance(point, on.point);
      if (far <= within && (!best || far < distance(best, on.point))) best = point;
    }
    return best ? { ...on, point: best } : on;
  }

  private surfaceLanding(view: ViewPoint, direction: Vec3, reach: number): Hit['landing'] {
    const plane = this.workPlane();
    if (plane) {
      const point = rayOnPlane(view, direction, plane);
      return point ? { point, normal: plane.normal } : null;
    }
    const surface = this.stickSurface();
    if (!surface) return null;
    const hit = snapRay(surface, view, direction, { reach, through: this.view.throughNow, isHidden: this.isHiddenOn(surface) }); // prettier-ignore
    return hit && facesEye(hit, view) ? hit : null;
  }

  private element(view: ViewPoint, direction: Vec3, px: number): ElementHit | null {
    const { plane, surface } = this.session;
    const through = this.view.throughNow;
    const sculpt =
      !through && surface && this.session.settings.sculpt.visible ? this.onSculpt({ view, direction }) : null;
    const lift = surface ? surface.diagonal * SCULPT_LIFT : 0;
    const limit = sculpt ? sculpt.distance + lift : Infinity;
    const own = this.elementOn(view.eye, direction, px, limit, through);
    if (!plane) return own;
    const image = this.elementOn(mirrored(view.eye, plane), directionAcross(direction, plane), px, limit, through);
    const best = image && (!own || rank(image) < rank(own)) ? { ...image, mirrored: true } : own;
    return best;
  }

  private elementOn(eye: Vec3, direction: Vec3, px: number, limit: number, through: boolean): ElementHit | null {
    const { mesh } = this.session;
    const { kind } = this.view.now;
    const face = this.grid.raycast(eye, direction);
    const seen = through ? limit : Math.min(limit, face ? face.distance + this.grid.cell * 0.5 : limit);
    const { vertex, edge } = this.grid.nearest(eye, direction, px * VERTEX_PX, seen, looseParts(mesh));
    const either = kind === 'any' && edge ? edge.span * MIDDLE : Infinity;
    if (vertex && vertex.slope < either && (kind === 'any' || kind === 'vertices'))
      return { kind: 'vertex', id: vertex.id, mirrored: false, along: vertex.along };
    if (edge && edge.slope < Math.min(px * EDGE_PX, either) && (kind === 'any' || kind === 'edges'))
      return { kind: 'edge', id: edge.id, mirrored: false, along: edge.along };
    if (face && face.distance < limit && (kind === 'any' || kind === 'faces'))
      return { kind: 'face', id: face.face, mirrored: false, along: face.distance };
    return null;
  }

  private freshGrid(): PickGrid {
    const { mesh, surface } = this.session;
    let sum = 0,
      n = 0;
    for (const e of mesh.edges()) {
      sum += distance(mesh.point(mesh.origin(2 * e)), mesh.point(mesh.target(2 * e)));
      if (++n >= 500) break;
    }
    const guess = surface ? surface.diagonal / 40 : 2;
    return new PickGrid(mesh, n > 0 && sum > 0 ? (2 * sum) / n : guess, (f) => !isHiddenFace(mesh, f, this.view.now.hiddenRegions)); // prettier-ignore
  }
}

const rank = (e: ElementHit): number => ['vertex', 'edge', 'face'].indexOf(e.kind) * 1e9 + e.along;

/** Loose chains are short-lived and few; they lie in no cell of the grid. */
function looseParts(mesh: PolyMesh): { vertices: number[]; edges: number[] } {
  if (mesh.edgeCount === 0 || mesh.faceCount * 2 > mesh.edgeCount) return { vertices: [], edges: [] };
  const edges = [...mesh.edges()].filter((e) => mesh.isLooseEdge(e));
  return { edges, vertices: edges.flatMap((e) => [mesh.origin(2 * e), mesh.target(2 * e)]).filter((v) => v !== NONE) };
}
