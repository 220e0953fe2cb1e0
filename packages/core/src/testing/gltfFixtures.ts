import { Document, Logger, Primitive, WebIO, type TypedArray } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression, KHRMeshQuantization } from '@gltf-transform/extensions';
import createEncoder from 'draco3dgltf/draco_encoder_gltf_nodejs.js';
import { MeshoptEncoder } from 'meshoptimizer/encoder';
import type { PolygonSoup } from '../mesh';

export type GltfKind = 'plain' | 'draco' | 'meshopt' | 'quantised' | 'sparse';
export const GLTF_KINDS: readonly GltfKind[] = ['plain', 'draco', 'meshopt', 'quantised', 'sparse'];

/** A GLB of a soup of triangles, encoded now: by Draco, by meshopt, in 16-bit coordinates, or with all its points sparse. */
export async function encodeGltf(soup: PolygonSoup, kind: GltfKind): Promise<Uint8Array> {
  const document = triangleDocument(soup, kind === 'quantised');
  document.setLogger(new Logger(Logger.Verbosity.ERROR));
  const io = new WebIO().registerExtensions([KHRDracoMeshCompression, EXTMeshoptCompression, KHRMeshQuantization]);
  if (kind === 'draco') {
    document.createExtension(KHRDracoMeshCompression).setRequired(true);
    io.registerDependencies({ 'draco3d.encoder': await createEncoder() });
  }
  if (kind === 'meshopt') {
    await MeshoptEncoder.ready;
    document.createExtension(EXTMeshoptCompression).setRequired(true);
    io.registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
  }
  if (kind === 'sparse')
    for (const accessor of document.getRoot().listAccessors()) accessor.setSparse(accessor.getType() === 'VEC3');
  return io.writeBinary(document);
}

/** The same as glTF text and the one buffer it names, shell.bin. */
export async function withBufferBeside(soup: PolygonSoup): Promise<{ json: string; bin: Uint8Array }> {
  const document = triangleDocument(soup, false);
  document.getRoot().listBuffers()[0].setURI('shell.bin');
  const { json, resources } = await new WebIO().writeJSON(document);
  return { json: JSON.stringify(json), bin: resources['shell.bin'] };
}

const STEPS = 32767;

function triangleDocument(soup: PolygonSoup, quantised: boolean): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  let most = 0;
  for (const x of soup.positions) most = Math.max(most, Math.abs(x));
  const points: TypedArray = quantised
    ? Int16Array.from(soup.positions, (x) => Math.round((x / most) * STEPS))
    : new Float32Array(soup.positions);
  const position = document
    .createAccessor()
    .setType('VEC3')
    .setArray(points)
    .setNormalized(quantised)
    .setBuffer(buffer);
  const indices = document.createAccessor().setType('SCALAR').setArray(soup.corners.slice()).setBuffer(buffer);
  const primitive = document
    .createPrimitive()
    .setMode(Primitive.Mode.TRIANGLES)
    .setAttribute('POSITION', position)
    .setIndices(indices);
  const node = document.createNode('shell').setMesh(document.createMesh('shell').addPrimitive(primitive));
  if (quantised) {
    document.createExtension(KHRMeshQuantization).setRequired(true);
    node.setScale([most, most, most]);
  }
  document.createScene().addChild(node);
  return document;
}
