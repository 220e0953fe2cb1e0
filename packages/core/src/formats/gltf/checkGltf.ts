import type { GLTF, JSONDocument } from '@gltf-transform/core';
import { badFile } from '../../errors';

const READ = ['KHR_draco_mesh_compression', 'EXT_meshopt_compression', 'KHR_mesh_quantization', 'FB_ngon_encoding'];
/** extensions that change how a surface looks or moves, never where it is */
const LOOKS = /^[A-Z]+_(materials|texture|lights|xmp|animation|node_visibility)/;
const BYTES: Readonly<Record<number, number>> = { 5120: 1, 5121: 1, 5122: 2, 5123: 2, 5125: 4, 5126: 4 };
const VALUES: Readonly<Record<string, number>> = { SCALAR: 1, VEC2: 2, VEC3: 3, VEC4: 4, MAT2: 4, MAT3: 9, MAT4: 16 };
/** values that no bytes stand behind (zeros, compressed ones) may take this many bytes, or this many times the file */
const UNBACKED = { bytes: 4 * 2 ** 20, times: 40 };

/**
 * Refuses what a reader must not trust: references to nothing, counts beyond the bytes at hand, nodes that contain themselves,
 * extensions that move points in ways we do not know. What has nothing to do with surfaces is taken out, so that
 * missing pictures are never looked for. Throws BAD_FILE with the place in the JSON. Linear in the JSON.
 */
export function checkGltf({ json, resources }: JSONDocument, fileBytes: number): void {
  for (const key of [
    'images',
    'textures',
    'samplers',
    'animations',
    'skins',
    'cameras',
    'extras',
    'extensions',
  ] as const)
    delete json[key];
  const unknown = (json.extensionsRequired ?? []).find((x) => !READ.includes(x) && !LOOKS.test(String(x)));
  if (unknown !== undefined)
    throw badFile(`The glTF needs “${String(unknown).slice(0, 60)}”, which cannot be read yet`);
  json.extensionsRequired = (json.extensionsRequired ?? []).filter((x) => READ.includes(x));
  json.extensionsUsed = (json.extensionsUsed ?? []).filter((x) => READ.includes(x));
  json.materials = list(json.materials, 'materials').map(({ name }) => (typeof name === 'string' ? { name } : {}));
  const lengths = list(json.buffers, 'buffers').map((buffer, i) => bufferLength(buffer, i, resources));
  const views = list(json.bufferViews, 'bufferViews').map((view, i) => viewLength(view, i, lengths));
  let unbacked = views.reduce((sum, v) => sum + v.unpacked, 0);
  list(json.accessors, 'accessors').forEach((a, i) => (unbacked += unbackedBytes(a, i, views)));
  if (unbacked > Math.max(UNBACKED.bytes, UNBACKED.times * fileBytes))
    throw badFile(`The accessors claim ${unbacked} bytes that the file of ${fileBytes} bytes does not hold`);
  list(json.meshes, 'meshes').forEach((mesh, i) => checkMesh(mesh, i, json));
  checkNodes(json);
}

function list<T>(value: T[] | undefined, what: string): T[] {
  if (value === undefined) return [];
  if (!Array.isArray(value) || value.some((x) => typeof x !== 'object' || x === null))
    throw badFile(`${what} is not a list of objects`);
  return value;
}
function whole(value: unknown, what: string, fallback?: number): number {
  const n = value === undefined ? fallback : value;
  if (typeof n !== 'number' || !Number.isSafeInteger(n) || n < 0) throw badFile(`${what} is not a count`);
  return n;
}
function row(value: unknown, what: string, rows: readonly unknown[] | undefined): number {
  const i = whole(value, what);
  if (i >= (rows?.length ?? 0)) throw badFile(`${what} is ${i}, but there are ${rows?.length ?? 0}`);
  return i;
}

function bufferLength(buffer: GLTF.IBuffer, i: number, resources: JSONDocument['resources']): number {
  const said = whole(buffer.byteLength, `buffers[${i}].byteLength`);
  const held = resources[buffer.uri ?? '@glb.bin']?.length ?? 0;
  const packed = buffer.extensions?.EXT_meshopt_compression !== undefined;
  if (said > held && !packed) throw badFile(`buffers[${i}].byteLength is ${said}, but there are ${held} bytes`);
  return packed ? Infinity : said;
}

interface ViewLength {
  length: number;
  stride: number | undefined;
  /** bytes that decompression makes */
  unpacked: number;
}
function viewLength(view: GLTF.IBufferView, i: number, buffers: number[]): ViewLength {
  const at = `bufferViews[${i}]`;
  const ends = (v: { buffer: number; byteOffset?: number; byteLength: number }, what: string): number => {
    const length = whole(v.byteLength, `${what}.byteLength`);
    const end = whole(v.byteOffset, `${what}.byteOffset`, 0) + length;
    if (end > buffers[row(v.buffer, `${what}.buffer`, buffers)])
      throw badFile(`${what} ends at byte ${end}, beyond its buffer`);
    return length;
  };
  const length = ends(view, at);
  const packed = view.extensions?.EXT_meshopt_compression as
    { buffer: number; byteOffset?: number; byteLength: number; count: number; byteStride: number } | undefined;
  if (packed) ends(packed, `${at}.extensions.EXT_meshopt_compression`);
  const unpacked = packed ? whole(packed.count, `${at}…count`) * whole(packed.byteStride, `${at}…byteStride`) : 0;
  if (packed && unpacked !== length) throw badFile(`${at} unpacks to ${unpacked} bytes, but says ${length}`);
  const stride = view.byteStride === undefined ? undefined : whole(view.byteStride, `${at}.byteStride`);
  return { length, stride, unpacked };
}

/** Checks that the accessor's values lie inside its view; the bytes it takes when it has none. */
function unbackedBytes(a: GLTF.IAccessor, i: number, views: ViewLength[]): number {
  const at = `accessors[${i}]`;
  const count = whole(a.count, `${at}.count`);
  const size = BYTES[a.componentType] * (Object.hasOwn(VALUES, a.type) ? VALUES[a.type] : NaN);
  if (!(size > 0)) throw badFile(`${at} is of an unknown type`);
  const fits = (index: unknown, offset: unknown, n: number, bytes: number, what: string): void => {
    const view = views[row(index, `${what}.bufferView`, views)];
    const last = n === 0 ? 0 : whole(offset, `${what}.byteOffset`, 0) + (n - 1) * (view.stride ?? bytes) + bytes;
    if (last > view.length)
      throw badFile(`${what} has ${n} values, which end at byte ${last} of a view of ${view.length}`);
  };
  if (a.sparse) {
    const { indices, values } = a.sparse;
    const n = whole(a.sparse.count, `${at}.sparse.count`);
    if (n > count || !indices || !values) throw badFile(`${at}.sparse does not fit its accessor`);
    fits(indices.bufferView, indices.byteOffset, n, BYTES[indices.componentType] ?? NaN, `${at}.sparse.indices`);
    fits(values.bufferView, values.byteOffset, n, size, `${at}.sparse.values`);
  }
  if (a.bufferView === undefined) return count * size;
  fits(a.bufferView, a.byteOffset, count, size, at);
  return 0;
}

function checkMesh(mesh: GLTF.IMesh, i: number, json: GLTF.IGLTF): void {
  list(mesh.primitives ?? [], `meshes[${i}].primitives`).forEach((p, k) => {
    const at = `meshes[${i}].primitives[${k}]`;
    if (typeof p.attributes !== 'object' || p.attributes === null) throw badFile(`${at} has no attributes`);
    // morph targets change nothing at rest
    delete p.targets;
    for (const [name, index] of Object.entries(p.attributes)) row(index, `${at}.attributes.${name}`, json.accessors);
    if (p.indices !== undefined) {
      const { type } = (json.accessors ?? [])[row(p.indices, `${at}.indices`, json.accessors)];
      if (type !== 'SCALAR') throw badFile(`${at}.indices are not single numbers`);
    }
    if (p.attributes.POSITION !== undefined && json.accessors?.[p.attributes.POSITION].type !== 'VEC3')
      throw badFile(`${at}.attributes.POSITION has not three coordinates`);
    if (p.material !== undefined) row(p.material, `${at}.material`, json.materials);
    const draco = p.extensions?.KHR_draco_mesh_compression as { bufferView?: unknown } | undefined;
    if (draco) row(draco.bufferView, `${at}.extensions.KHR_draco_mesh_compression.bufferView`, json.bufferViews);
  });
}

/** Every node in at most one place, none below itself; missing scenes are made of the topmost nodes. */
function checkNodes(json: GLTF.IGLTF): void {
  const nodes = list(json.nodes, 'nodes');
  const parents = new Int32Array(nodes.length).fill(-1);
  nodes.forEach((node, i) => {
    delete node.skin;
    delete node.camera;
    if (node.mesh !== undefined) row(node.mesh, `nodes[${i}].mesh`, json.meshes);
    for (const child of node.children ?? []) {
      const c = row(child, `nodes[${i}].children`, nodes);
      if (parents[c] >= 0) throw badFile(`nodes[${c}] hangs in two places`);
      parents[c] = i;
    }
  });
  nodes.forEach((_, i) => {
    let steps = 0;
    for (let n = i; n >= 0; n = parents[n]) if (steps++ > nodes.length) throw badFile(`nodes[${i}] contains itself`);
  });
  list(json.scenes, 'scenes').forEach((s, i) => (s.nodes ?? []).forEach((n) => row(n, `scenes[${i}].nodes`, nodes)));
  if (json.scene !== undefined) row(json.scene, 'scene', json.scenes);
  if ((json.scenes ?? []).length === 0 && nodes.length > 0)
    json.scenes = [{ nodes: [...parents.keys()].filter((i) => parents[i] < 0) }];
}
