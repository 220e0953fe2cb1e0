import { Document, WebIO, type Accessor, type Primitive, type TypedArray } from '@gltf-transform/core';
import type { PolygonSoup } from '../../mesh';
import { srgbToLinear } from '../colour';
import type { WriteOptions } from '../format';
import { NGON, NgonEncoding, type NgonMark } from './ngonExtension';
import { encodeNgons } from './ngonEncoding';
import { splitByCorners, type SplitPart } from './splitByCorners';

const MOST_U16 = 65535;

/**
 * A GLB of one mesh with a primitive and material for each group. Polygons survive by FB_ngon_encoding, `lost` counts those
 * that could not. Points are split where their corners differ in texture coordinates or normals. Units are metres.
 */
export async function writeGltf(
  soup: PolygonSoup,
  { name }: WriteOptions,
): Promise<{ bytes: Uint8Array; lost: number }> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Half Loop';
  const mesh = document.createMesh(name);
  const marks = soup.faceStarts.some((s, f) => f > 0 && s - soup.faceStarts[f - 1] > 3)
    ? document.createExtension(NgonEncoding)
    : null;
  let lost = 0;
  for (const part of splitByCorners(soup)) {
    const { indices, lost: here } = encodeNgons(part);
    lost += here;
    mesh.addPrimitive(primitiveOf(document, part, indices, part.group ?? name, marks?.createMark() ?? null));
  }
  document.createScene(name).addChild(document.createNode(name).setMesh(mesh));
  const bytes = await new WebIO().registerExtensions([NgonEncoding]).writeBinary(document);
  return { bytes, lost };
}

function primitiveOf(
  document: Document,
  part: SplitPart,
  indices: Uint32Array,
  material: string,
  mark: NgonMark | null,
): Primitive {
  const buffer = document.getRoot().listBuffers()[0] ?? document.createBuffer();
  const accessor = (type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', array: TypedArray): Accessor =>
    document.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const wide = part.positions.length / 3 > MOST_U16;
  const primitive = document
    .createPrimitive()
    .setAttribute('POSITION', accessor('VEC3', new Float32Array(part.positions)))
    .setIndices(accessor('SCALAR', wide ? indices : new Uint16Array(indices)))
    .setMaterial(document.createMaterial(material).setRoughnessFactor(0.7).setMetallicFactor(0));
  const { normals, uvs, colours } = part;
  if (normals) primitive.setAttribute('NORMAL', accessor('VEC3', normals));
  if (uvs) primitive.setAttribute('TEXCOORD_0', accessor('VEC2', uvs));
  if (colours) primitive.setAttribute('COLOR_0', accessor('VEC4', colours.map((x, i) => (i % 4 < 3 ? srgbToLinear(x) : x)))); // prettier-ignore
  if (mark) primitive.setExtension(NGON, mark);
  return primitive;
}
