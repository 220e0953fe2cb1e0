import {
  Document,
  Extension,
  ExtensionProperty,
  Primitive,
  PropertyType,
  WebIO,
  type Node,
  type ReaderContext,
  type WriterContext,
} from '@gltf-transform/core';
import { badFile, HalfLoopError } from '../errors';
import type { PolygonSoup } from '../mesh';
import type { WriteOptions } from './format';
import { GrowF64, GrowU32 } from './grow';
import { decodeNgons, encodeNgons } from './ngonEncoding';

const NGON = 'FB_ngon_encoding';

/** Marks a primitive whose triangles are ordered as fans of polygons. */
class NgonMark extends ExtensionProperty {
  static override EXTENSION_NAME = NGON;
  declare extensionName: typeof NGON;
  declare propertyType: 'NgonMark';
  declare parentTypes: PropertyType[];
  protected override init(): void {
    this.extensionName = NGON;
    this.propertyType = 'NgonMark';
    this.parentTypes = [PropertyType.PRIMITIVE];
  }
}

class NgonEncoding extends Extension {
  static override readonly EXTENSION_NAME = NGON;
  override readonly extensionName = NGON;
  createMark(): NgonMark {
    return new NgonMark(this.document.getGraph());
  }
  override read(context: ReaderContext): this {
    (context.jsonDoc.json.meshes ?? []).forEach((def, i) =>
      def.primitives.forEach((primitive, k) => {
        if (primitive.extensions?.[NGON]) context.meshes[i].listPrimitives()[k].setExtension(NGON, this.createMark());
      }),
    );
    return this;
  }
  override write(context: WriterContext): this {
    const { json } = context.jsonDoc;
    for (const mesh of this.document.getRoot().listMeshes()) {
      const def = (json.meshes ?? [])[context.meshIndexMap.get(mesh) as number];
      mesh.listPrimitives().forEach((primitive, k) => {
        if (primitive.getExtension(NGON))
          def.primitives[k].extensions = { ...def.primitives[k].extensions, [NGON]: {} };
      });
    }
    return this;
  }
}

/**
 * GLB, or glTF text with everything embedded: every mesh of the scene, placed by its nodes, triangles, strips and
 * fans; polygons where the file marks FB_ngon_encoding. Throws BAD_FILE. Linear.
 */
export async function readGlb(bytes: Uint8Array): Promise<PolygonSoup> {
  const document = await parse(bytes);
  const positions = new GrowF64();
  const corners = new GrowU32();
  const starts = new GrowU32();
  starts.push(0);
  const visit = (node: Node): void => {
    for (const primitive of node.getMesh()?.listPrimitives() ?? [])
      addPrimitive(primitive, node.getWorldMatrix(), positions, corners, starts);
    node.listChildren().forEach(visit);
  };
  const root = document.getRoot();
  (root.getDefaultScene() ?? root.listScenes()[0])?.listChildren().forEach(visit);
  return { positions: positions.done(), faceStarts: starts.done(), corners: corners.done() };
}

async function parse(bytes: Uint8Array): Promise<Document> {
  const io = new WebIO().registerExtensions([NgonEncoding]);
  try {
    if (bytes[0] !== 123) return await io.readBinary(bytes);
    const json = JSON.parse(new TextDecoder().decode(bytes));
    return await io.readJSON({ json, resources: embedded(json) });
  } catch (error) {
    if (error instanceof HalfLoopError) throw error;
    const why = error instanceof Error ? error.message : String(error);
    throw new HalfLoopError('BAD_FILE', `The glTF could not be read: ${why.slice(0, 200)}`, {}, { cause: error });
  }
}

/** Data URIs of a glTF text by their own text, as the library wants them. */
function embedded(json: { buffers?: { uri?: string }[] }): Record<string, Uint8Array<ArrayBuffer>> {
  const resources: Record<string, Uint8Array<ArrayBuffer>> = {};
  for (const { uri } of json.buffers ?? []) {
    if (uri === undefined) continue;
    if (!uri.startsWith('data:'))
      throw badFile(`The glTF needs the file “${uri.slice(0, 60)}” beside it; use a GLB or embed it`);
    resources[uri] = Uint8Array.from(atob(uri.slice(uri.indexOf(',') + 1)), (c) => c.charCodeAt(0));
  }
  return resources;
}

function addPrimitive(
  primitive: Primitive,
  m: ArrayLike<number>,
  positions: GrowF64,
  corners: GrowU32,
  starts: GrowU32,
): void {
  const accessor = primitive.getAttribute('POSITION');
  const faces = accessor ? facesOf(primitive, accessor.getCount()) : [];
  if (!accessor || faces.length === 0) return;
  const base = positions.length / 3;
  const p = [0, 0, 0];
  for (let v = 0; v < accessor.getCount(); v++) {
    accessor.getElement(v, p);
    for (let k = 0; k < 3; k++) {
      const x = m[k] * p[0] + m[4 + k] * p[1] + m[8 + k] * p[2] + m[12 + k];
      if (!Number.isFinite(x)) throw badFile(`Point ${v} of a mesh has a coordinate that is not a number`);
      positions.push(x);
    }
  }
  const flips = determinant(m) < 0;
  for (const face of faces) {
    for (const v of flips ? [...face].reverse() : face) {
      if (v >= accessor.getCount()) throw badFile(`A triangle names point ${v}, but there are ${accessor.getCount()}`);
      corners.push(base + v);
    }
    starts.push(corners.length);
  }
}

function facesOf(primitive: Primitive, vertices: number): number[][] {
  const array = primitive.getIndices()?.getArray();
  const ids: number[] = array ? Array.from(array as ArrayLike<number>) : Array.from({ length: vertices }, (_, i) => i);
  const { TRIANGLES, TRIANGLE_STRIP, TRIANGLE_FAN } = Primitive.Mode;
  switch (primitive.getMode()) {
    case TRIANGLES:
      if (primitive.getExtension(NGON)) return decodeNgons(ids);
      return Array.from({ length: Math.floor(ids.length / 3) }, (_, t) => ids.slice(3 * t, 3 * t + 3));
    case TRIANGLE_STRIP:
      return ids.slice(2).map((c, i) => (i % 2 === 0 ? [ids[i], ids[i + 1], c] : [ids[i + 1], ids[i], c]));
    case TRIANGLE_FAN:
      return ids.slice(2).map((c, i) => [ids[0], ids[i + 1], c]);
    default:
      return [];
  }
}

const determinant = (m: ArrayLike<number>): number =>
  m[0] * (m[5] * m[10] - m[6] * m[9]) - m[4] * (m[1] * m[10] - m[2] * m[9]) + m[8] * (m[1] * m[6] - m[2] * m[5]);

/** A GLB of one mesh; polygons survive by FB_ngon_encoding, `lost` counts those that could not. Units are metres. */
export async function writeGlb(
  soup: PolygonSoup,
  { name, normals }: WriteOptions,
): Promise<{ bytes: Uint8Array; lost: number }> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Half Loop';
  const buffer = document.createBuffer();
  const { indices, lost } = encodeNgons(soup);
  const wide = soup.positions.length / 3 > 65535;
  const primitive = document
    .createPrimitive()
    .setAttribute(
      'POSITION',
      document.createAccessor().setType('VEC3').setArray(new Float32Array(soup.positions)).setBuffer(buffer),
    )
    .setIndices(
      document
        .createAccessor()
        .setType('SCALAR')
        .setArray(wide ? indices : new Uint16Array(indices))
        .setBuffer(buffer),
    )
    .setMaterial(document.createMaterial(name).setRoughnessFactor(0.7).setMetallicFactor(0));
  if (normals)
    primitive.setAttribute(
      'NORMAL',
      document.createAccessor().setType('VEC3').setArray(new Float32Array(normals)).setBuffer(buffer),
    );
  const hasPolygons = soup.faceStarts.length - 1 < indices.length / 3;
  if (hasPolygons) primitive.setExtension(NGON, document.createExtension(NgonEncoding).createMark());
  const mesh = document.createMesh(name).addPrimitive(primitive);
  document.createScene(name).addChild(document.createNode(name).setMesh(mesh));
  const bytes = await new WebIO().registerExtensions([NgonEncoding]).writeBinary(document);
  return { bytes, lost };
}
