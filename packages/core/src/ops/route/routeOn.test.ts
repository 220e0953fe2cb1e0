import { describe, expect, it } from 'vitest';
import { checkInvariants, edgeLoop, EMPTY_SELECTION, encodeMesh, type PolyMesh } from '../../mesh';
import { gridMesh } from '../../testing';
import { BARE_GROUND, dissolve, loopStops, routeOn, routesOn, runOperator, spin, stopWords } from '..';

const edgeAt = (mesh: PolyMesh, u: number, v: number): number => mesh.findHalf(u, v) >> 1;
const allQuads = (mesh: PolyMesh): boolean => [...mesh.faces()].every((f) => mesh.faceHalves(f).length === 4);

/** A grid of 8 × 8 in which one edge was spun: two poles of three, two of five. */
function withPoles(): PolyMesh {
  const mesh = gridMesh(8, 8);
  runOperator(mesh, spin, { ...EMPTY_SELECTION, edges: [edgeAt(mesh, 40, 49)] }, {});
  return mesh;
}

describe('route on', () => {
  it('says where and why a loop stops', () => {
    const mesh = withPoles();
    const stops = [...mesh.edges()].flatMap((e) => loopStops(mesh, e, BARE_GROUND));
    expect(stops.length).toBeGreaterThan(0);
    expect(new Set(stops.map(stopWords))).toEqual(
      new Set(['stops at a pole of 3 edges', 'stops at a pole of 5 edges']),
    );
    expect(loopStops(gridMesh(8, 8), edgeAt(gridMesh(8, 8), 40, 41), BARE_GROUND)).toEqual([]);
  });
  it('finds the one edit that undoes the spin first, since it takes four poles away', () => {
    const mesh = withPoles();
    const e = [...mesh.edges()].find((g) => loopStops(mesh, g, BARE_GROUND).length > 0) as number;
    const before = encodeMesh(mesh);
    const [best] = routesOn(mesh, loopStops(mesh, e, BARE_GROUND)[0]);
    expect(encodeMesh(mesh)).toEqual(before);
    expect([best.poles, best.edits.length, best.faces]).toEqual([-4, 1, 0]);
    const { report, selection } = runOperator(mesh, routeOn, { ...EMPTY_SELECTION, edges: [e] }, {});
    expect(report.sentence).toMatch(/^Way 1 of \d+: 1 edit, 4 poles fewer; the loop has 8 edges/);
    expect(selection.edges).toHaveLength(8);
    expect([...mesh.vertices()].every((v) => mesh.isBorderVertex(v) || mesh.valence(v) === 4)).toBe(true);
  });
  it('every way it offers keeps quads, lets the loop through, and costs what it says', () => {
    const { ways } = runOperator(withPoles(), routeOn, { ...EMPTY_SELECTION, edges: [stopped(withPoles())] }, {}).report
      .counts;
    expect(ways).toBeGreaterThan(1);
    for (let way = 1; way <= ways; way++) {
      const mesh = withPoles();
      const e = stopped(mesh);
      const length = edgeLoop(mesh, 2 * e).halves.length;
      const polesOf = (): number =>
        [...mesh.vertices()].filter((v) => !mesh.isBorderVertex(v) && mesh.valence(v) !== 4).length;
      const before = polesOf();
      const { report } = runOperator(mesh, routeOn, { ...EMPTY_SELECTION, edges: [e] }, { way });
      expect(checkInvariants(mesh)).toEqual([]);
      expect(allQuads(mesh)).toBe(true);
      expect(polesOf() - before).toBe(report.counts.poles);
      expect(report.counts.edges).toBeGreaterThan(length);
    }
  });
  it('leads a loop through a hexagon by connecting it, and refuses one that stops nowhere', () => {
    const mesh = gridMesh(6, 6);
    runOperator(mesh, dissolve, { ...EMPTY_SELECTION, edges: [edgeAt(mesh, 24, 25)] }, { tidy: false });
    const e = edgeAt(mesh, 22, 23);
    const [stop] = loopStops(mesh, e, BARE_GROUND);
    expect(stopWords(stop)).toMatch(/stops at/);
    expect(routesOn(mesh, stop)[0]).toMatchObject({ edits: [{ kind: 'connect' }], faces: 1 });
    expect(() => runOperator(gridMesh(4, 4), routeOn, { ...EMPTY_SELECTION, edges: [6] }, {})).toThrow(/stops nowhere/);
  });
});

const stopped = (mesh: PolyMesh): number =>
  [...mesh.edges()].find((e) => loopStops(mesh, e, BARE_GROUND).length > 0) as number;
