import { describe, expect, it } from 'vitest';
import { TopologyError } from '../errors';
import { cubeMesh, gridMesh } from '../testing';
import { addEdge, addFace, addVertex, removeEdges, removeFaces, removeVertices } from './build';
import { checkInvariants } from './checkInvariants';
import { meshFromSoup, soupFromMesh } from './convert';
import { decodeMesh, encodeMesh } from './encode';
import { NONE, PolyMesh } from './PolyMesh';
import { soupOf } from './PolygonSoup';
import { borderLoops, components, edgeLoop, edgeRing } from './walks';

const points = (mesh: PolyMesh, n: number): number[] =>
  Array.from({ length: n }, (_, i) => addVertex(mesh, [Math.cos(i), Math.sin(i), i]));

describe('addFace', () => {
  it('lays a cube whose counts follow Euler', () => {
    const mesh = cubeMesh();
    expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual([8, 12, 6]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(borderLoops(mesh)).toEqual([]);
  });

  it('lets two fans share a vertex and closes the gap between them', () => {
    const mesh = new PolyMesh();
    const [a, b, c, d, e] = points(mesh, 5);
    addFace(mesh, [a, b, c]);
    addFace(mesh, [a, d, e]);
    expect(checkInvariants(mesh)).toEqual([]);
    addFace(mesh, [a, c, d]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(mesh.vertexFaces(a)).toHaveLength(3);
    addFace(mesh, [a, e, b]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(mesh.isBorderVertex(a)).toBe(false);
  });

  it('refuses a third face on an edge and a second closed fan', () => {
    const mesh = new PolyMesh();
    const [a, b, c, d, e, f, g] = points(mesh, 7);
    addFace(mesh, [a, b, c]);
    addFace(mesh, [a, c, d]);
    expect(() => addFace(mesh, [a, b, e])).toThrow(expect.objectContaining({ reason: 'EDGE_FULL' }));
    addFace(mesh, [a, e, f]);
    expect(() => addFace(mesh, [a, d, b])).toThrow(expect.objectContaining({ reason: 'VERTEX_CLOSED' }));
    expect(() => addFace(mesh, [a, a, g])).toThrow(expect.objectContaining({ reason: 'VERTEX_REPEATED' }));
    expect(() => addFace(mesh, [a, g])).toThrow(TopologyError);
  });

  it('uses loose edges that are there', () => {
    const mesh = new PolyMesh();
    const [a, b, c, d] = points(mesh, 4);
    addEdge(mesh, a, b);
    addEdge(mesh, b, c);
    addEdge(mesh, b, d);
    expect(checkInvariants(mesh)).toEqual([]);
    addFace(mesh, [a, b, c]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(mesh.edgeCount).toBe(4);
    expect(mesh.isLooseEdge(mesh.findHalf(b, d) >> 1)).toBe(true);
  });
});

describe('removing', () => {
  it('takes faces with the edges and points nothing else holds', () => {
    const mesh = gridMesh(3, 3);
    removeFaces(mesh, [4]);
    expect([mesh.vertexCount, mesh.edgeCount, mesh.faceCount]).toEqual([16, 24, 8]);
    expect(borderLoops(mesh)).toHaveLength(2);
    removeFaces(mesh, [0]);
    expect([mesh.vertexCount, mesh.edgeCount]).toEqual([15, 22]);
    expect(checkInvariants(mesh)).toEqual([]);
  });

  it('takes vertices and edges with the faces round them, and gives their ids out again', () => {
    const mesh = gridMesh(2, 2);
    removeVertices(mesh, [4]);
    expect(mesh.faceCount + mesh.edgeCount + mesh.vertexCount).toBe(0);
    expect(checkInvariants(mesh)).toEqual([]);
    const [a, b] = points(mesh, 2);
    expect(Math.max(a, b)).toBeLessThan(9);
    removeEdges(mesh, [addEdge(mesh, a, b) >> 1]);
    expect(mesh.vertexCount).toBe(0);
  });
});

describe('walks', () => {
  it('follows loops to the border and rings round', () => {
    const mesh = gridMesh(4, 3);
    const inner = mesh.findHalf(6, 7);
    expect(edgeLoop(mesh, inner)).toMatchObject({ closed: false });
    expect(edgeLoop(mesh, inner).halves).toHaveLength(4);
    expect(edgeRing(mesh, inner).halves).toHaveLength(4);
    const cube = cubeMesh();
    const ring = edgeRing(cube, cube.findHalf(0, 1));
    expect(ring.closed).toBe(true);
    expect(ring.halves).toHaveLength(4);
    expect(edgeLoop(cube, cube.findHalf(0, 1)).halves).toHaveLength(1);
  });

  it('finds the border as one closed walk and components apart', () => {
    const mesh = gridMesh(4, 3);
    expect(borderLoops(mesh).map((w) => w.halves.length)).toEqual([14]);
    expect(borderLoops(mesh)[0].halves.every((h) => mesh.face(h) === NONE)).toBe(true);
    addFace(mesh, points(mesh, 3));
    expect(components(mesh).map((c) => c.length)).toEqual([20, 3]);
  });
});

describe('convert and encode', () => {
  it('splits corners where three faces would share an edge', () => {
    const soup = soupOf([[0, 0, 0], [1, 0, 0], [0, 1, 0], [0, 0, 1], [0, -1, 0]], [[0, 1, 2], [1, 0, 3], [0, 1, 4], [0, 0, 1]]); // prettier-ignore
    const { mesh, splitCorners, droppedFaces } = meshFromSoup(soup);
    expect([mesh.faceCount, splitCorners, droppedFaces]).toEqual([3, 3, 1]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(soupFromMesh(mesh).positions).toHaveLength(3 * 7);
  });

  it('brings a mesh back bit for bit, free ids and channels too', () => {
    const mesh = gridMesh(5, 4);
    const crease = mesh.channel({ domain: 'edge', name: 'crease', type: 'f32', stride: 1, fill: 0 });
    crease.set(3, 0.5);
    removeFaces(mesh, [7, 8, 0]);
    const bytes = encodeMesh(mesh);
    const back = decodeMesh(bytes);
    expect(encodeMesh(back)).toEqual(bytes);
    expect(back.findChannel('edge', 'crease')?.get(3)).toBe(0.5);
    expect(checkInvariants(back)).toEqual([]);
    expect(() => decodeMesh(bytes.slice(0, bytes.length - 9))).toThrow(/cut short/);
    expect(() => decodeMesh(new Uint8Array(20))).toThrow(/other bytes/);
  });
});
