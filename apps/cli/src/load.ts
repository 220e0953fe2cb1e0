import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import path from 'node:path';
import { readMesh, SPLIT_FORMATS } from '@half-loop/core/formats';
import type { PolygonSoup } from '@half-loop/core/mesh';
import { weldExact } from '@half-loop/core/surface';

/**
 * A mesh file's polygons and what it says beside them; formats that split points are welded on exactly equal positions unless told
 * not to. Files that a glTF names are looked for beside it.
 */
export async function load(file: string, weld: boolean): Promise<PolygonSoup> {
  const { buffer, byteOffset, byteLength } = await readFile(file);
  const { soup, format } = await readMesh(new Uint8Array(buffer, byteOffset, byteLength), path.basename(file), {
    attributes: true,
    beside: (name) => readFile(path.join(path.dirname(file), name)).catch(() => null),
    dracoWasm: () => wasmOf('draco3dgltf/draco_decoder_gltf.wasm'),
  });
  if (!weld || !SPLIT_FORMATS.includes(format)) return soup;
  const { positions, remap } = weldExact(soup.positions);
  return weldedSoup(soup, Float64Array.from(positions), remap);
}

function weldedSoup(soup: PolygonSoup, positions: Float64Array, remap: Uint32Array): PolygonSoup {
  const { attributes } = soup;
  const colours = attributes?.pointColours;
  const kept = colours && new Float32Array((4 * positions.length) / 3);
  if (kept) remap.forEach((v, i) => kept.set(colours.subarray(4 * i, 4 * i + 4), 4 * v));
  return {
    ...soup,
    positions,
    corners: soup.corners.map((v) => remap[v]),
    ...(attributes ? { attributes: { ...attributes, ...(kept ? { pointColours: kept } : {}) } } : {}),
  };
}

/** A package's compiled program, by its path in there. */
export async function wasmOf(file: string): Promise<ArrayBuffer> {
  const bytes = await readFile(createRequire(import.meta.url).resolve(file));
  return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
}
