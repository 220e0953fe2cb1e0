import { faceCountOf, type PolygonSoup } from '../../mesh';
import type { WriteOptions } from '../format';
import { pointNormals } from '../pointsAndCorners';

/**
 * Binary little-endian PLY: coordinates in the precision they are in, polygons; normals a point, which is their mean where a point's corners differ;
 * colours of points and faces as bytes; texture coordinates a corner as a list of each face.
 */
export function writePly(soup: PolygonSoup, { name }: WriteOptions): Uint8Array {
  const { positions: p, corners, faceStarts, attributes = {} } = soup;
  const { pointColours, faceColours, uvs } = attributes;
  const normals = attributes.normals && pointNormals(soup, attributes.normals);
  const single = p instanceof Float32Array;
  const vertices = p.length / 3,
    faces = faceCountOf(soup);
  const rgba = ['red', 'green', 'blue', 'alpha'].map((k) => `property uchar ${k}`);
  const lines = ['ply', 'format binary_little_endian 1.0', `comment ${name.replace(/[^\x20-\x7e]+/g, '_')}`];
  lines.push(
    `element vertex ${vertices}`,
    ...['x', 'y', 'z'].map((k) => `property ${single ? 'float' : 'double'} ${k}`),
  );
  if (normals) lines.push(...['nx', 'ny', 'nz'].map((k) => `property float ${k}`));
  if (pointColours) lines.push(...rgba);
  // a byte is what most readers expect of a count; polygons beyond it are rare
  const wide = faceStarts.some((start, f) => f > 0 && start - faceStarts[f - 1] > 255);
  lines.push(`element face ${faces}`, `property list ${wide ? 'uint' : 'uchar'} int vertex_indices`);
  if (uvs) lines.push('property list uint float texcoord');
  if (faceColours) lines.push(...rgba);
  const head = new TextEncoder().encode([...lines, 'end_header', ''].join('\n'));
  const perVertex = (single ? 12 : 24) + (normals ? 12 : 0) + (pointColours ? 4 : 0);
  const perFace = (wide ? 4 : 1) + (uvs ? 4 : 0) + (faceColours ? 4 : 0);
  const out = new Uint8Array(head.length + vertices * perVertex + faces * perFace + corners.length * (uvs ? 12 : 4));
  out.set(head);
  const view = new DataView(out.buffer);
  let at = head.length;
  const byte = (x: number): void => view.setUint8(at++, Math.round(255 * Math.min(1, Math.max(0, x))));
  for (let v = 0; v < vertices; v++) {
    for (let k = 0; k < 3; k++, at += single ? 4 : 8)
      if (single) view.setFloat32(at, p[3 * v + k], true);
      else view.setFloat64(at, p[3 * v + k], true);
    if (normals) for (let k = 0; k < 3; k++, at += 4) view.setFloat32(at, normals[3 * v + k], true);
    if (pointColours) for (let k = 0; k < 4; k++) byte(pointColours[4 * v + k]);
  }
  for (let f = 0; f < faces; f++) {
    const [from, to] = [faceStarts[f], faceStarts[f + 1]];
    if (wide) view.setUint32(at, to - from, true);
    else view.setUint8(at, to - from);
    at += wide ? 4 : 1;
    for (let c = from; c < to; c++, at += 4) view.setInt32(at, corners[c], true);
    if (uvs) {
      view.setUint32(at, 2 * (to - from), true);
      at += 4;
      for (let i = 2 * from; i < 2 * to; i++, at += 4) view.setFloat32(at, uvs[i], true);
    }
    if (faceColours) for (let k = 0; k < 4; k++) byte(faceColours[4 * f + k]);
  }
  return out;
}
