import { TopologyError } from '../errors';
import { addFace, addVertex } from './build';
import type { Column } from './Column';
import { NONE, PolyMesh } from './PolyMesh';
import type { ChannelSpec } from './Delta';
import type { FaceGroups, PolygonSoup, SoupAttributes } from './PolygonSoup';

/** The channels that files fill, by the soup's word for them. */
export const FILE_CHANNELS = {
  uvs: { domain: 'corner', name: 'uv', type: 'f32', stride: 2, fill: NaN },
  normals: { domain: 'corner', name: 'normal', type: 'f32', stride: 3, fill: 0 },
  pointColours: { domain: 'vertex', name: 'colour', type: 'f32', stride: 4, fill: 1 },
  faceColours: { domain: 'face', name: 'colour', type: 'f32', stride: 4, fill: 1 },
  groups: { domain: 'face', name: 'group', type: 'i32', stride: 1, fill: 0 },
  hardEdges: { domain: 'edge', name: 'hard', type: 'i32', stride: 1, fill: 0 },
} as const satisfies Record<keyof SoupAttributes, ChannelSpec>;

export interface ConvertedMesh {
  mesh: PolyMesh;
  /** corners that got points of their own, because their face would have broken the mesh */
  splitCorners: number;
  /** faces left out: too few or repeated corners */
  droppedFaces: number;
  /** what the numbers of the group channel are called */
  groupNames: string[];
}

/**
 * A PolyMesh over the soup's polygons. A face that would make an edge with three faces, or close a second
 * fan at a vertex, gets corners of its own there instead: `splitCorners` counts them. Faces with a repeated or too
 * few corners are left out and counted. Vertices keep their order, then the split ones follow. Attributes become channels.
 */
export function meshFromSoup(soup: PolygonSoup): ConvertedMesh {
  const mesh = new PolyMesh();
  const { positions, faceStarts, corners, attributes = {} } = soup;
  for (let i = 0; i < positions.length; i += 3) addVertex(mesh, [positions[i], positions[i + 1], positions[i + 2]]);
  let splitCorners = 0,
    droppedFaces = 0;
  /** soup face → mesh face */
  const faces = new Int32Array(faceStarts.length - 1).fill(NONE);
  for (let f = 0; f < faces.length; f++) {
    const vertices = [...corners.subarray(faceStarts[f], faceStarts[f + 1])];
    if (vertices.length < 3 || new Set(vertices).size !== vertices.length) {
      droppedFaces++;
      continue;
    }
    faces[f] = tryAddFace(mesh, vertices);
    if (faces[f] !== NONE) continue;
    splitCorners += vertices.length;
    const own = vertices.map((v) => addVertex(mesh, mesh.point(v)));
    faces[f] = addFace(mesh, own);
    if (attributes.pointColours) {
      const colour = mesh.channel(FILE_CHANNELS.pointColours);
      vertices.forEach((v, i) => setRow(colour, own[i], attributes.pointColours as Float32Array, v));
    }
  }
  fillChannels(mesh, soup, faces);
  return { mesh, splitCorners, droppedFaces, groupNames: attributes.groups?.names ?? [] };
}

function setRow(column: Column, row: number, from: ArrayLike<number>, at: number): void {
  for (let k = 0; k < column.stride; k++) column.set(row, from[at * column.stride + k], k);
}

function fillChannels(
  mesh: PolyMesh,
  { attributes = {}, positions, faceStarts }: PolygonSoup,
  faces: Int32Array,
): void {
  const { uvs, normals, pointColours, faceColours, groups, hardEdges } = attributes;
  const eachFace = (spec: ChannelSpec, data: ArrayLike<number>): void => {
    const column = mesh.channel(spec);
    faces.forEach((face, f) => face !== NONE && setRow(column, face, data, f));
  };
  const eachCorner = (spec: ChannelSpec, data: Float32Array): void => {
    const column = mesh.channel(spec);
    faces.forEach((face, f) => {
      if (face !== NONE) mesh.faceHalves(face).forEach((h, i) => setRow(column, h, data, faceStarts[f] + i));
    });
  };
  if (uvs) eachCorner(FILE_CHANNELS.uvs, uvs);
  if (normals) eachCorner(FILE_CHANNELS.normals, normals);
  if (faceColours) eachFace(FILE_CHANNELS.faceColours, faceColours);
  if (groups) eachFace(FILE_CHANNELS.groups, groups.ofFace);
  if (pointColours) {
    const column = mesh.channel(FILE_CHANNELS.pointColours);
    for (let v = 0; v < positions.length / 3; v++) setRow(column, v, pointColours, v);
  }
  if (hardEdges) {
    const column = mesh.channel(FILE_CHANNELS.hardEdges);
    for (let i = 0; i < hardEdges.length; i += 2) {
      const h = mesh.findHalf(hardEdges[i], hardEdges[i + 1]);
      if (h !== NONE) column.set(h >> 1, 1);
    }
  }
}

function tryAddFace(mesh: PolyMesh, vertices: number[]): number {
  mesh.begin();
  try {
    const f = addFace(mesh, vertices);
    mesh.commit();
    return f;
  } catch (error) {
    mesh.rollback();
    if (error instanceof TopologyError) return NONE;
    throw error;
  }
}

/**
 * The faces of a mesh as a soup: vertices in the order of their ids, packed; channels as attributes; isolated vertices and loose
 * edges are left out. Linear.
 */
export function soupFromMesh(mesh: PolyMesh, groupNames: readonly string[] = []): PolygonSoup {
  const corners: number[] = [];
  const starts = [0];
  const packed = new Map<number, number>();
  const used = new Uint8Array(mesh.vertexRows);
  for (const f of mesh.faces()) {
    for (const v of mesh.faceVertices(f)) {
      used[v] = 1;
      corners.push(v);
    }
    starts.push(corners.length);
  }
  const positions: number[] = [];
  used.forEach((isUsed, v) => {
    if (!isUsed) return;
    packed.set(v, packed.size);
    positions.push(...mesh.point(v));
  });
  const attributes = attributesOf(mesh, packed, groupNames);
  return {
    positions: Float64Array.from(positions),
    faceStarts: Uint32Array.from(starts),
    corners: Uint32Array.from(corners, (v) => packed.get(v) as number),
    ...(Object.keys(attributes).length > 0 ? { attributes } : {}),
  };
}

function attributesOf(mesh: PolyMesh, packed: Map<number, number>, groupNames: readonly string[]): SoupAttributes {
  const faces = [...mesh.faces()];
  const halves = faces.flatMap((f) => mesh.faceHalves(f));
  const rows = (spec: ChannelSpec, ids: Iterable<number>): Float32Array | undefined => {
    const column = mesh.findChannel(spec.domain, spec.name);
    if (!column) return undefined;
    return Float32Array.from(
      [...ids].flatMap((id) => Array.from({ length: spec.stride }, (_, k) => column.get(id, k))),
    );
  };
  const groups = groupsOf(mesh, faces, groupNames);
  const hard = mesh.findChannel('edge', FILE_CHANNELS.hardEdges.name);
  const found: SoupAttributes = {
    uvs: rows(FILE_CHANNELS.uvs, halves),
    normals: rows(FILE_CHANNELS.normals, halves),
    pointColours: rows(FILE_CHANNELS.pointColours, packed.keys()),
    faceColours: rows(FILE_CHANNELS.faceColours, faces),
    groups,
    hardEdges: hard && Uint32Array.from(hardPairs(mesh, hard, packed)),
  };
  return Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined));
}

function groupsOf(mesh: PolyMesh, faces: number[], names: readonly string[]): FaceGroups | undefined {
  const column = mesh.findChannel('face', FILE_CHANNELS.groups.name);
  if (!column) return undefined;
  const ofFace = Uint32Array.from(faces, (f) => column.get(f, 0));
  const most = ofFace.reduce((a, b) => Math.max(a, b), 0);
  return { names: Array.from({ length: most + 1 }, (_, i) => names[i] ?? `group ${i + 1}`), ofFace };
}

function* hardPairs(mesh: PolyMesh, hard: Column, packed: Map<number, number>): Generator<number> {
  for (const e of mesh.edges()) {
    const ends = [mesh.origin(2 * e), mesh.target(2 * e)].map((v) => packed.get(v));
    if (hard.get(e, 0) !== 0 && ends.every((v) => v !== undefined)) yield* ends as number[];
  }
}
