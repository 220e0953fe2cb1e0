import { faceCountOf, smoothingOf, type PolygonSoup } from '../../mesh';
import type { WriteOptions } from '../format';
import { indexRows } from '../indexRows';

/**
 * OBJ text: polygons, texture coordinates, normals, point colours, groups, and hard edges as smoothing groups; `kept`
 * counts the hard edges that could be said. Numbers round-trip to the last bit. Linear.
 */
export function writeObj(soup: PolygonSoup, { name }: WriteOptions): { bytes: Uint8Array; hardKept: number } {
  const { positions: p, corners, faceStarts, attributes = {} } = soup;
  const { pointColours: rgba, groups } = attributes;
  const lines = [`o ${oneWord(name)}`];
  for (let i = 0, c = 0; i < p.length; i += 3, c += 4) {
    const colour = rgba ? ` ${rgba[c]} ${rgba[c + 1]} ${rgba[c + 2]}` : '';
    lines.push(`v ${p[i]} ${p[i + 1]} ${p[i + 2]}${colour}`);
  }
  const uvs = attributes.uvs && indexRows(attributes.uvs, 2);
  const normals = attributes.normals && indexRows(attributes.normals, 3);
  if (uvs) for (let i = 0; i < uvs.rows.length; i += 2) lines.push(`vt ${uvs.rows[i]} ${uvs.rows[i + 1]}`);
  if (normals)
    for (let i = 0; i < normals.rows.length; i += 3)
      lines.push(`vn ${normals.rows[i]} ${normals.rows[i + 1]} ${normals.rows[i + 2]}`);
  const smoothing = attributes.hardEdges ? smoothingOf(soup) : null;
  let [group, smooth] = [-1, -1];
  for (let f = 0; f < faceCountOf(soup); f++) {
    if (groups && groups.ofFace[f] !== group) {
      group = groups.ofFace[f];
      lines.push(`g ${oneWord(groups.names[group])}`);
    }
    if (smoothing && smoothing.ofFace[f] !== smooth) {
      smooth = smoothing.ofFace[f];
      lines.push(`s ${smooth}`);
    }
    let line = 'f';
    for (let c = faceStarts[f]; c < faceStarts[f + 1]; c++)
      line += ` ${corners[c] + 1}${references(uvs?.of[c] ?? -1, normals?.of[c] ?? -1)}`;
    lines.push(line);
  }
  return { bytes: new TextEncoder().encode(`${lines.join('\n')}\n`), hardKept: smoothing?.kept ?? 0 };
}

function references(uv: number, normal: number): string {
  if (normal >= 0) return `/${uv >= 0 ? uv + 1 : ''}/${normal + 1}`;
  return uv >= 0 ? `/${uv + 1}` : '';
}

/** A user's name as one OBJ word: blanks, line breaks and control characters become underscores. */
const oneWord = (name: string): string => name.replace(/[\s\\#\p{Cc}\u2028\u2029]+/gu, '_') || 'low-poly';
