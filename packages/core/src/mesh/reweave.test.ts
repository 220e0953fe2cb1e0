import { describe, expect, it } from 'vitest';
import { TopologyError } from '../errors';
import { gridMesh, pick, seededRng } from '../testing';
import { addEdge, addFace, addVertex } from './build';
import { checkInvariants } from './checkInvariants';
import { encodeMesh } from './encode';
import { NONE } from './PolyMesh';
import { reweave } from './reweave';
import { touchedElements } from './touched';

describe('reweave', () => {
  it('carries face, edge and corner attributes over to the successors', () => {
    const mesh = gridMesh(4, 1);
    const region = mesh.channel({ domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 });
    const crease = mesh.channel({ domain: 'edge', name: 'crease', type: 'f32', stride: 1, fill: 0 });
    const uv = mesh.channel({ domain: 'corner', name: 'uv', type: 'f32', stride: 2, fill: 0 });
    for (const f of mesh.faces()) {
      region.set(f, 10 + f);
      mesh.faceHalves(f).forEach((h) =>
        mesh
          .point(mesh.origin(h))
          .slice(0, 2)
          .forEach((x, k) => uv.set(h, x, k)),
      );
    }
    crease.set(mesh.findHalf(0, 5) >> 1, 0.75);
    reweave(mesh, new Map([[4, 0], [9, 5]])); // prettier-ignore
    expect(checkInvariants(mesh)).toEqual([]);
    expect([...mesh.faces()].map((f) => region.get(f)).sort()).toEqual([10, 11, 12, 13]);
    expect(crease.get(mesh.findHalf(0, 5) >> 1)).toBe(0.75);
    const last = [...mesh.faces()].find((f) => region.get(f) === 13) as number;
    expect(mesh.faceHalves(last).map((h) => uv.get(h)).sort()).toEqual([3, 3, 4, 4]); // prettier-ignore
  });

  it('keeps loose chains that ended at a replaced vertex', () => {
    const mesh = gridMesh(1, 1);
    const [a, b] = [addVertex(mesh, [5, 5, 0]), addVertex(mesh, [6, 5, 0])];
    addEdge(mesh, a, b);
    reweave(mesh, new Map([[a, 3]]));
    expect(checkInvariants(mesh)).toEqual([]);
    expect(mesh.isLooseEdge(mesh.findHalf(3, b) >> 1)).toBe(true);
    expect(mesh.hasVertex(a)).toBe(false);
  });

  it('lets faces go that have fewer than three corners left, and says which', () => {
    const mesh = gridMesh(1, 1);
    const tip = addVertex(mesh, [0.5, 2, 0]);
    const triangle = addFace(mesh, [2, 3, tip]);
    expect(reweave(mesh, new Map([[tip, 3]])).lostFaces).toEqual([triangle]);
    expect([mesh.faceCount, mesh.edgeCount, mesh.vertexCount]).toEqual([1, 4, 4]);
    expect(checkInvariants(mesh)).toEqual([]);
  });

  it('either leaves a sound mesh or throws, and a rollback gives every bit back', () => {
    const rng = seededRng(11);
    let [done, refused] = [0, 0];
    for (let i = 0; i < 400; i++) {
      const mesh = gridMesh(3, 3);
      const before = encodeMesh(mesh);
      const vertices = [...mesh.vertices()];
      const map = new Map<number, number>();
      for (let k = 0; k < 1 + Math.floor(rng() * 3); k++) {
        const [from, to] = [pick(rng, vertices), pick(rng, vertices)];
        if (from !== to && !map.has(from) && ![...map].some(([f, t]) => t === from || f === to)) map.set(from, to);
      }
      mesh.begin();
      try {
        reweave(mesh, map);
        mesh.commit();
        done++;
        expect(checkInvariants(mesh)).toEqual([]);
      } catch (error) {
        expect(error).toBeInstanceOf(TopologyError);
        refused++;
        mesh.rollback();
        expect(encodeMesh(mesh)).toEqual(before);
      }
    }
    expect(done).toBeGreaterThan(100);
    expect(refused).toBeGreaterThan(20);
  });
});

describe('touched elements', () => {
  it('are the moved vertex, its edges and its faces, and what a new face brings', () => {
    const mesh = gridMesh(3, 3);
    mesh.begin();
    mesh.setPoint(5, [1, 1, 2]);
    const open = touchedElements(mesh, mesh.openRows());
    expect([...open.vertices]).toEqual([5]);
    expect(open.faces).toEqual(new Set(mesh.vertexFaces(5)));
    const { columns } = mesh.commit();
    expect(touchedElements(mesh, columns)).toEqual(open);
    mesh.begin();
    const f = addFace(mesh, [1, 0, addVertex(mesh, [0.5, -1, 0])]);
    const touched = touchedElements(mesh, mesh.commit().columns);
    expect(touched.faces.has(f)).toBe(true);
    expect(touched.edges.has(mesh.findHalf(1, 0) >> 1)).toBe(true);
    expect(mesh.face(mesh.findHalf(1, 0))).not.toBe(NONE);
  });
});
