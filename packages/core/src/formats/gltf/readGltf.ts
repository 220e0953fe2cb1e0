import { WebIO, type Document, type Node, type Primitive } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization } from '@gltf-transform/extensions';
import { badFile, HalfLoopError } from '../../errors';
import type { PolygonSoup } from '../../mesh';
import type { ReadOptions } from '../format';
import { checkGltf } from './checkGltf';
import { openGltf } from './container';
import { decodersFor } from './decoders';
import { GltfParts, keepsSingles } from './GltfParts';
import { NgonEncoding } from './ngonExtension';

/**
 * GLB, or glTF text with its buffers embedded or beside it: every mesh of the scene, placed by its nodes, triangles, strips
 * and fans, sparse and quantised values, Draco and meshopt compression; polygons where the file marks
 * FB_ngon_encoding. With `attributes` also texture coordinates, normals, colours, and a group for each mesh and material. Throws
 * BAD_FILE with the place in the JSON. Linear.
 */
export async function readGltf(bytes: Uint8Array, options: ReadOptions): Promise<PolygonSoup> {
  const document = await parse(bytes, options);
  const root = document.getRoot();
  const placed: { primitive: Primitive; matrix: number[]; group: string }[] = [];
  const visit = (node: Node): void => {
    const mesh = node.getMesh();
    const primitives = mesh?.listPrimitives() ?? [];
    const matrix = node.getWorldMatrix();
    for (const primitive of primitives) {
      const material = primitive.getMaterial()?.getName();
      const name = node.getName() || mesh?.getName() || material || 'mesh';
      placed.push({ primitive, matrix, group: primitives.length > 1 && material ? `${name} ${material}` : name });
    }
    node.listChildren().forEach(visit);
  };
  (root.getDefaultScene() ?? root.listScenes()[0])?.listChildren().forEach(visit);
  const single = placed.every((p) => keepsSingles(p.primitive.getAttribute('POSITION'), p.matrix));
  const parts = new GltfParts(single, options.attributes ?? false);
  for (const { primitive, matrix, group } of placed) parts.add(primitive, matrix, group);
  return parts.finish();
}

async function parse(bytes: Uint8Array, options: ReadOptions): Promise<Document> {
  const opened = await openGltf(bytes, options);
  try {
    checkGltf(opened, bytes.length);
    const io = new WebIO()
      .registerExtensions([NgonEncoding, KHRDracoMeshCompression, EXTMeshoptCompression, KHRMeshQuantization])
      .registerDependencies(await decodersFor(opened.json.extensionsUsed ?? [], options));
    return await io.readJSON(opened);
  } catch (error) {
    if (error instanceof HalfLoopError) throw error;
    // a TypeError means that the library walked into something that is not there: its own words help nobody
    const known = error instanceof Error && !(error instanceof TypeError || error instanceof RangeError);
    const why = known ? error.message.slice(0, 160) : 'its parts do not fit together';
    throw badFile(`The glTF could not be read: ${why || 'its data is damaged'}`);
  }
}
