import { isOnPlane, mirrored, ontoPlane, planeDistance, type MirrorPlane, type Vec3 } from '@half-loop/core/math';
import { vertexNormal } from '@half-loop/core/mesh';
import { keptSide, ontoSeam, sectorsIn, type Corner } from '@half-loop/core/ops';
import { ontoWorkPlane, snapPoint, type ViewPoint } from '@half-loop/core/surface';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import type { ToolHost } from './Tool';

/** A place for a corner: where it is stored, and where the user sees it (the mirror image, when they work there). */
export interface Placed {
  corner: Corner;
  stored: Vec3;
  seen: Vec3;
}

/** On which side of the midline the stored half lies: the first vertex off the plane decides. Null with nothing laid. */
export function storedSide({ session }: ToolHost): number | null {
  const { plane, mesh } = session;
  return plane && keptSide(mesh, plane);
}

/** Whether work on this hit happens on the derived half, so that what is laid is mirrored before it is stored. */
export function isOnImage(host: ToolHost, hit: Hit): boolean {
  if (hit.element && hit.element.kind !== 'face') return hit.element.mirrored;
  const side = storedSide(host);
  const { plane } = host.session;
  if (!plane || side === null || !hit.landing) return hit.element?.mirrored ?? false;
  const d = planeDistance(hit.landing.point, plane);
  return Math.abs(d) > host.weldWithin() && Math.sign(d) !== side;
}

/** A place under the pointer where something may be drawn. */
export interface DrawnPlace {
  seen: Vec3;
  onImage: boolean;
  /** on the piece in hand itself */
  onPiece: boolean;
}

/** Where a line or paint for laying lies: on what points stick to; where that is no surface, on the piece in hand if wished, and beside it on the work plane. */
export function drawnPlace(host: ToolHost, hit: Hit, takesPiece = true): DrawnPlace | null {
  const { picker } = host.scene;
  const on = !takesPiece || picker.stickSurface() ? null : picker.onLowPoly(hit);
  if (on) return { seen: on.point, onImage: on.mirrored, onPiece: true };
  return hit.landing && { seen: hit.landing.point, onImage: isOnImage(host, hit), onPiece: false };
}

/** A point of the sculpt that lies exactly on the midline, near p. */
function ontoMidline(host: ToolHost, p: Vec3, plane: MirrorPlane): Vec3 {
  const surface = host.scene.picker.stickSurface();
  let q = ontoPlane(p, plane);
  if (surface) for (let i = 0; i < 3; i++) q = ontoPlane(surface.closest(q).point, plane);
  return q;
}

/** Where sectors are joined, a place near their seam lies exactly on the image of its other side, or on the axis. */
function onSeam(host: ToolHost, p: Vec3): Vec3 {
  const { mesh, piece } = host.session;
  const joined = sectorsIn(piece, mesh);
  return (joined && ontoSeam(mesh, joined.sectors, p, host.weldWithin())) ?? p;
}

/** Where a landing is stored: mirrored when on the image, and exactly on the midline when near it or past it. */
export function storedPoint(host: ToolHost, landing: Vec3, onImage: boolean, side: number | null): Vec3 {
  const { plane } = host.session;
  if (!plane) return onSeam(host, landing);
  const p = onImage ? mirrored(landing, plane) : landing;
  const d = planeDistance(p, plane);
  const past = side !== null && d !== 0 && Math.sign(d) !== side;
  return past || Math.abs(d) <= host.weldWithin() ? ontoMidline(host, p, plane) : p;
}

export const seenPoint = (host: ToolHost, stored: Vec3, onImage: boolean): Vec3 => {
  const { plane } = host.session;
  return onImage && plane ? mirrored(stored, plane) : stored;
};

/** The corner under a hit: a vertex there or within the weld distance, else a new point on what points stick to. */
export function placeCorner(
  host: ToolHost,
  hit: Hit,
  onImage: boolean,
  side: number | null,
  except: ReadonlySet<number>,
): Placed | null {
  const { mesh } = host.session;
  const { element, landing } = hit;
  if (element?.kind === 'vertex' && !except.has(element.id)) return placedVertex(host, element.id, onImage);
  if (!landing) return null;
  const stored = storedPoint(host, landing.point, onImage, side);
  const near = host.scene.picker.grid.vertexWithin(stored, host.weldWithin(), except);
  if (near !== null && mesh.hasVertex(near)) return placedVertex(host, near, onImage);
  return { corner: { point: [...stored] }, stored, seen: seenPoint(host, stored, onImage) };
}

function placedVertex(host: ToolHost, vertex: number, onImage: boolean): Placed {
  const stored = host.session.mesh.point(vertex);
  return { corner: { vertex }, stored, seen: seenPoint(host, stored, onImage) };
}

/** A moved point brought back onto what points stick to, as this view sees it; null where it sees no such surface. */
export function stick(host: ToolHost, stored: Vec3, view: ViewPoint, onImage: boolean): Vec3 | null {
  const workPlane = host.scene.picker.workPlane();
  const seen = seenPoint(host, stored, onImage);
  if (workPlane) return seenPoint(host, ontoWorkPlane(seen, workPlane), onImage);
  const surface = host.scene.picker.stickSurface();
  if (!surface) return stored;
  const isHidden = host.scene.picker.isHiddenOn(surface);
  const hit = snapPoint(surface, view, seen, { reach: 0.05, through: host.view.throughNow, isHidden });
  return hit ? seenPoint(host, hit.point, onImage) : null;
}

/** A row's point brought onto the surface on its own side, also where the view cannot see it: a whole border goes round. */
export function stickBySide(host: ToolHost, stored: Vec3, normal: Vec3): Vec3 {
  const surface = host.scene.picker.stickSurface();
  const workPlane = host.scene.picker.workPlane();
  if (workPlane) return ontoWorkPlane(stored, workPlane);
  if (!surface) return stored;
  const near = surface.closest(stored);
  const agrees = near.normal[0] * normal[0] + near.normal[1] * normal[1] + near.normal[2] * normal[2] > 0;
  return agrees ? near.point : stored;
}

/** Keeps a midline vertex on the midline and others off the far side. */
export function keepSide(host: ToolHost, from: Vec3, to: Vec3): Vec3 {
  const { plane } = host.session;
  if (!plane) return onSeam(host, to);
  if (isOnPlane(from, plane)) return ontoMidline(host, to, plane);
  return storedPoint(host, to, false, Math.sign(planeDistance(from, plane)));
}

export const normalAt = (host: ToolHost, v: number): Vec3 => vertexNormal(host.session.mesh, v);

/** The weld distance as a ring round a seen point: what lies inside would weld. Empty when it is too small to see. */
export function weldRing(host: ToolHost, at: Vec3): Overlay['points'] {
  const { along } = host.scene.picker.pixelOf(at);
  const size = (2 * host.weldWithin()) / host.scene.camera.pixelSize(along);
  return size > 5 && size < 600 ? [{ at, colour: MODEL_COLOURS.ink, size, shape: 1 }] : [];
}

/** A ring of a brush's size round a place; nothing without one. */
export function brushRing({ scene }: ToolHost, at: Vec3 | null | undefined, radius: number): Overlay {
  const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
  if (!at) return overlay;
  const size = (2 * radius) / scene.camera.pixelSize(scene.picker.pixelOf(at).along);
  overlay.points.push({ at, colour: MODEL_COLOURS.ink, size: Math.max(8, Math.min(600, size)), shape: 1 });
  return overlay;
}
