import { describe, expect, it } from 'vitest';
import { borderLoops, checkInvariants, soupFromMesh, type PolyMesh } from '../../mesh';
import { distance, nearestOnLine, seededRng, type Vec3 } from '../../math';
import { FormLines, sculptFromSoup, SculptSurface, type Section } from '../../surface';
import { gridMesh } from '../../testing';
import { regionBorder, type Ground } from '..';
import { groundOn, isQuads, run } from './fixtures';

const SIZE = 14;
/** A flat form with lines drawn on it. */
function formWith(lines: Section[]): Ground {
  const ground = groundOn(SculptSurface.build(sculptFromSoup(soupFromMesh(gridMesh(SIZE, SIZE)))));
  if (ground.form) ground.form.lines = new FormLines(lines);
  return ground;
}
/** A grid with a window cut out, and an edge of the window. */
function windowed(low: number, high: number): { mesh: PolyMesh; edge: number } {
  const mesh = gridMesh(SIZE, SIZE);
  const isIn = ([x, y]: Vec3): boolean => Math.min(x, y) >= low && Math.max(x, y) <= high;
  const points = (f: number): Vec3[] => mesh.faceVertices(f).map((v) => mesh.point(v));
  run(mesh, 'delete', {}, { faces: [...mesh.faces()].filter((f) => points(f).every(isIn)) });
  const [hole] = borderLoops(mesh).sort((a, b) => a.halves.length - b.halves.length);
  return { mesh, edge: hole.halves[0] >> 1 };
}
/** The length of edges that lie on a line, both ends within a little. */
function lengthOn(mesh: PolyMesh, { points, closed }: Section): number {
  const isOn = (v: number): boolean => distance(mesh.point(v), nearestOnLine(mesh.point(v), points, closed).point) < 1e-4; // prettier-ignore
  const ends = (e: number): [number, number] => [mesh.origin(2 * e), mesh.target(2 * e)];
  return [...mesh.edges()].reduce((sum, e) => sum + (ends(e).every(isOn) ? distance(mesh.point(ends(e)[0]), mesh.point(ends(e)[1])) : 0), 0); // prettier-ignore
}
const isSound = (mesh: PolyMesh): void => {
  expect(checkInvariants(mesh)).toEqual([]);
  expect(isQuads(mesh)).toBe(true);
  expect(borderLoops(mesh)).toHaveLength(1);
};
const wave = (at: number, high: number): Section => ({
  points: Array.from({ length: 141 }, (_, i): Vec3 => [i / 10, at + high * Math.sin((i / 140) * 2 * Math.PI), 0]),
  closed: false,
});
const ring = (x: number, y: number, r: number): Section => ({
  points: Array.from({ length: 96 }, (_, i): Vec3 => [x + r * Math.cos((i * Math.PI) / 48), y + r * Math.sin((i * Math.PI) / 48), 0]), // prettier-ignore
  closed: true,
});

describe('fill along the borders of regions', () => {
  it('lays a chain of edges along a border that crosses the opening', () => {
    const { mesh, edge } = windowed(3, 11);
    const line = wave(7, 1.5);
    const { report } = run(mesh, 'fill', {}, { edges: [edge] }, formWith([line]));
    expect(report.sentence).toMatch(/ along 1 region border: /);
    isSound(mesh);
    // all but the steps from the opening's own points onto the line
    expect(lengthOn(mesh, line)).toBeGreaterThan(5.5);
    expect(report.counts.quality).toBeGreaterThan(0.3);
  });

  it('lays a loop round a region that lies inside, and a grid in it', () => {
    const { mesh, edge } = windowed(2, 12);
    const line = ring(7, 6.5, 2.5);
    const { report } = run(mesh, 'fill', {}, { edges: [edge] }, formWith([line]));
    isSound(mesh);
    expect(lengthOn(mesh, line)).toBeGreaterThan(0.97 * 2 * Math.PI * 2.5);
    expect(report.counts.followed).toBe(1);
    // the corners of the grid inside the loop, and those of the window, which two quads of the band share
    expect(report.counts.irregular).toBe(8);
    expect(report.counts.quality).toBeGreaterThan(0.2);
  });

  it('does so wherever lines run, and never leaves a gap', () => {
    const rng = seededRng(3);
    for (let i = 0; i < 24; i++) {
      const low = 1 + Math.floor(rng() * 4);
      const { mesh, edge } = windowed(low, low + 5 + Math.floor(rng() * 4));
      const lines = [wave(2 + rng() * 9, rng() * 3), ring(3 + rng() * 8, 3 + rng() * 8, 1 + rng() * 3)];
      const { report } = run(mesh, 'fill', {}, { edges: [edge] }, formWith(lines));
      isSound(mesh);
      expect(report.counts.quality, String(i)).toBeGreaterThan(0);
    }
  });

  it('goes on between two regions of the faces round it, each part in its own', () => {
    const { mesh, edge } = windowed(4, 10);
    const left = [...mesh.faces()].filter((f) => mesh.faceVertices(f).every((v) => mesh.point(v)[0] <= 6));
    run(mesh, 'set-region', { region: 2 }, { faces: left });
    run(mesh, 'fill', {}, { edges: [edge] });
    isSound(mesh);
    const border = regionBorder(mesh, 2);
    // straight across, from end to end: as many edges as the grid has
    expect(border).toHaveLength(SIZE);
    for (const e of border) expect(mesh.point(mesh.origin(2 * e))[0]).toBeCloseTo(6, 6);
  });
});

describe('relaxing on the borders of regions', () => {
  it('lets what lies on a line slide along it, and nothing leave it', () => {
    const mesh = gridMesh(SIZE, SIZE);
    const line = wave(7, 1);
    const onLine = [...mesh.vertices()].filter((v) => mesh.point(v)[1] === 7);
    const rng = seededRng(1);
    for (const v of mesh.vertices())
      if (!mesh.isBorderVertex(v)) mesh.setPoint(v, [mesh.point(v)[0] + 0.3 * (rng() - 0.5), mesh.point(v)[1] + 0.3 * (rng() - 0.5), 0]); // prettier-ignore
    for (const v of onLine) mesh.setPoint(v, nearestOnLine(mesh.point(v), line.points).point);
    const before = onLine.map((v) => mesh.point(v));
    const ground = formWith([line]);
    run(mesh, 'relax', { passes: 20, density: 'even' }, {}, ground);
    const off = onLine.map((v) => distance(mesh.point(v), nearestOnLine(mesh.point(v), line.points).point));
    // a step that is halved, so that no face folds, ends on the chord
    expect(Math.max(...off)).toBeLessThan(2e-3);
    expect(onLine.some((v, i) => distance(mesh.point(v), before[i]) > 0.02)).toBe(true);
    // without the line they are drawn straight
    run(mesh, 'relax', { passes: 20, density: 'even' }, {}, formWith([]));
    expect(onLine.some((v) => distance(mesh.point(v), nearestOnLine(mesh.point(v), line.points).point) > 0.05)).toBe(true); // prettier-ignore
  });
});
