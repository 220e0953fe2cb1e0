import { decodeDocument } from '@half-loop/contract';
import { TopologyError } from '@half-loop/core/errors';
import { boxOf, placementOf, toPlaced, type MirrorPlane, type Placement, type Vec3 } from '@half-loop/core/math';
import { soupFromMesh, soupNormals, triangulate, type PolygonSoup, type PolyMesh } from '@half-loop/core/mesh';
import type { LineLayer, Rgb, SolidLayer } from '@half-loop/core/raster';
import { decodeSculpt, vertexNormals, type TriangleData } from '@half-loop/core/surface';
import { followRecipe, type RecipePiece } from '@half-loop/core/ops';
import { GLAZE, INK, pictureOf } from './pictureOf';

/** A PNG of the sculpt with the low-poly on it, three-quarter view. Cost: about 0.3 s for 150,000 triangles. */
export function drawThumbnail(documentBytes: Uint8Array, sculptBytes: Uint8Array | null): Uint8Array {
  const { document } = decodeDocument(documentBytes);
  const { settings } = document;
  const sculpt = sculptBytes ? decodeSculpt(sculptBytes) : null;
  const plane = settings.symmetry.on ? settings.symmetry : null;
  // as they would ship; the kernel of solids is not here, so that a Boolean step is left out
  const shown = document.pieces.filter((p) => p.visible && !p.guide);
  const meshes = shown.map((p) => asItShips(p, plane, document.pieces));
  const soups = meshes.map((mesh) => soupFromMesh(mesh));
  const all = sculpt ? sculpt.positions : (soups[0]?.positions ?? new Float64Array(0));
  const raw = boxOf(all);
  const placement = placementOf(settings.up, settings.front, raw, settings.onFloor);
  const corners = [raw.min, raw.max].map((p) => toPlaced(p, placement));
  const solids: SolidLayer[] = [];
  if (sculpt) solids.push(sculptLayer(sculpt, placement, tintOf(settings.sculpt.tint)));
  const lift = 0.012 * Math.hypot(...corners[0].map((x, k) => corners[1][k] - x));
  const lines: LineLayer[] = [];
  for (const soup of soups) {
    solids.push(soupLayer(soup, placement, lift));
    lines.push({ segments: segmentsOf(soup, placement), colour: INK, lift: lift * 1.15 });
  }
  return pictureOf(solids, lines);
}

/** A piece with its recipe followed and its mirrored half; as it lies, where that cannot be had: what crosses the plane is seen all the same. */
function asItShips(piece: RecipePiece, plane: MirrorPlane | null, all: readonly RecipePiece[]): PolyMesh {
  try {
    return followRecipe(piece, plane, all).mesh;
  } catch (error) {
    if (!plane || !(error instanceof TopologyError)) throw error;
    return followRecipe(piece, null, all).mesh;
  }
}

function tintOf(hex: string): Rgb {
  return [1, 3, 5].map((i) => Math.min(255, parseInt(hex.slice(i, i + 2), 16) * 1.1)) as unknown as Rgb;
}

function sculptLayer({ positions, indices }: TriangleData, placement: Placement, colour: Rgb): SolidLayer {
  const normals = vertexNormals(positions, indices);
  const turned = { ...placement, lift: 0 };
  return { positions: placeAll(positions, placement), indices, normals: placeAll(normals, turned), colour };
}

function soupLayer(soup: PolygonSoup, placement: Placement, lift: number): SolidLayer {
  const indices: number[] = [];
  for (let f = 0; f + 1 < soup.faceStarts.length; f++) {
    const ids = [...soup.corners.subarray(soup.faceStarts[f], soup.faceStarts[f + 1])];
    const points = ids.map((v): Vec3 => [soup.positions[3 * v], soup.positions[3 * v + 1], soup.positions[3 * v + 2]]);
    indices.push(...triangulate(points).map((i) => ids[i]));
  }
  const normals = placeAll(soupNormals(soup), { ...placement, lift: 0 });
  return { positions: placeAll(soup.positions, placement), indices, normals, colour: GLAZE, lift };
}

function segmentsOf(soup: PolygonSoup, placement: Placement): Float64Array {
  const placed = placeAll(soup.positions, placement);
  const out: number[] = [];
  for (let f = 0; f + 1 < soup.faceStarts.length; f++)
    for (let c = soup.faceStarts[f]; c < soup.faceStarts[f + 1]; c++) {
      const next = c + 1 < soup.faceStarts[f + 1] ? c + 1 : soup.faceStarts[f];
      for (const v of [soup.corners[c], soup.corners[next]])
        out.push(placed[3 * v], placed[3 * v + 1], placed[3 * v + 2]);
    }
  return Float64Array.from(out);
}

function placeAll(points: ArrayLike<number>, placement: Placement): Float64Array {
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 3) out.set(toPlaced([points[i], points[i + 1], points[i + 2]], placement), i);
  return out;
}
