import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { readMesh, SPLIT_FORMATS } from '@half-loop/core/formats';
import type { PolygonSoup } from '@half-loop/core/mesh';
import { weldExact } from '@half-loop/core/surface';

/** A mesh file's polygons; formats that split points are welded on exactly equal positions unless told not to. */
export async function load(file: string, weld: boolean): Promise<PolygonSoup> {
  const { soup, format } = await readMesh(new Uint8Array(await readFile(file)), path.basename(file));
  if (!weld || !SPLIT_FORMATS.includes(format)) return soup;
  const { positions, remap } = weldExact(soup.positions);
  return { ...soup, positions: Float64Array.from(positions), corners: soup.corners.map((v) => remap[v]) };
}
