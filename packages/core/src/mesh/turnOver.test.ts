import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cubeMesh, gridMesh, pick, seededRng } from '../testing';
import { addEdge, addFace, addVertex, removeFaces } from './build';
import { checkInvariants } from './checkInvariants';
import { encodeMesh } from './encode';
import { facePatches } from './walks';
import type { PolyMesh } from './PolyMesh';
import { turnOver } from './turnOver';

/** Values on every corner, edge and face that name it by its vertices. */
function named(mesh: PolyMesh): void {
  const uv = mesh.channel({ domain: 'corner', name: 'uv', type: 'f32', stride: 2, fill: 0 });
  const crease = mesh.channel({ domain: 'edge', name: 'crease', type: 'f32', stride: 1, fill: 0 });
  const region = mesh.channel({ domain: 'face', name: 'region', type: 'i32', stride: 1, fill: 0 });
  for (const f of mesh.faces()) {
    region.set(f, f + 1);
    for (const h of mesh.faceHalves(f)) [f, mesh.origin(h)].forEach((x, k) => uv.set(h, x, k));
  }
  for (const e of mesh.edges()) crease.set(e, mesh.origin(2 * e) + 100 * mesh.origin(2 * e + 1));
}

/** Faces by their corners from the least on, with what they and their corners hold. */
function told(mesh: PolyMesh, backward: boolean): string[] {
  const uv = mesh.findChannel('corner', 'uv');
  const region = mesh.findChannel('face', 'region');
  return [...mesh.faces()].map((f) => {
    const corners = mesh.faceHalves(f).map((h) => `${mesh.origin(h)}:${uv?.get(h)},${uv?.get(h, 1)}`);
    if (backward) corners.reverse();
    const first = corners.indexOf([...corners].sort()[0]);
    return `${f} ${region?.get(f)} ${[...corners.slice(first), ...corners.slice(0, first)].join(' ')}`;
  });
}

describe('turning over', () => {
  it('runs every face the other way, with all that its corners, edges and faces hold, over seeded parts with holes and loose edges; twice is nothing', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const rng = seededRng(seed);
        const mesh = rng() < 0.5 ? cubeMesh() : gridMesh(5, 4);
        removeFaces(mesh, [...mesh.faces()].filter(() => rng() < 0.3)); // prettier-ignore
        if (mesh.faceCount === 0) return;
        const border = [...mesh.vertices()].filter((v) => mesh.isBorderVertex(v));
        if (border.length > 0) addEdge(mesh, pick(rng, border), addVertex(mesh, [9, 9, 9]));
        named(mesh);
        const [before, edges] = [told(mesh, true), [...mesh.edges()].map((e) => mesh.findChannel('edge', 'crease')?.get(e))]; // prettier-ignore
        const bits = encodeMesh(mesh);
        turnOver(mesh, mesh.faces());
        expect(checkInvariants(mesh)).toEqual([]);
        expect(told(mesh, false)).toEqual(before);
        expect([...mesh.edges()].map((e) => mesh.findChannel('edge', 'crease')?.get(e))).toEqual(edges);
        turnOver(mesh, mesh.faces());
        expect(encodeMesh(mesh)).toEqual(bits);
      }),
      { numRuns: 200 },
    );
  });

  it('is refused where a face hangs on by a vertex, and changes nothing then', () => {
    const mesh = gridMesh(2, 1);
    const before = encodeMesh(mesh);
    expect(() => turnOver(mesh, [0])).toThrow(/as a whole/);
    expect(encodeMesh(mesh)).toEqual(before);
  });

  it('turns one part of several', () => {
    const mesh = gridMesh(1, 1);
    const [a, b, c] = [[5, 0, 0], [6, 0, 0], [6, 1, 0]].map((p) => addVertex(mesh, p as [number, number, number])); // prettier-ignore
    const f = addFace(mesh, [a, b, c]);
    const [other] = facePatches(mesh, mesh.faces());
    const kept = mesh.faceVertices(other[0]);
    turnOver(mesh, [f]);
    expect(checkInvariants(mesh)).toEqual([]);
    expect(mesh.findHalf(c, b)).toBe(mesh.faceHalves(f).find((h) => mesh.origin(h) === c));
    expect(mesh.faceVertices(other[0])).toEqual(kept);
  });
});
