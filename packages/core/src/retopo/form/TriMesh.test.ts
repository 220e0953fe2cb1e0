import fc from 'fast-check';
import { expect, test } from 'vitest';
import { sculptFromSoup } from '../../surface';
import { ballSoup } from '../../testing';
import { topologyOf } from '../quads/verify';
import { cleaned } from './clean';
import { collapse, mayCollapse } from './collapse';
import type { TriMesh } from './TriMesh';

/** Every link of a mesh holds: twins are mutual and run against each other, each vertex leaves by its own half-edge, and fans close. */
function checkLinks(mesh: TriMesh): void {
  let corners = 0;
  for (let h = 0; h < 3 * mesh.triangles; h++) {
    if (!mesh.isAlive(Math.floor(h / 3))) continue;
    corners++;
    const g = mesh.twin[h];
    if (g < 0) continue;
    expect([mesh.twin[g], mesh.from[g], mesh.to(g)]).toEqual([h, mesh.to(h), mesh.from[h]]);
    expect(mesh.line[g]).toBe(mesh.line[h]);
  }
  let inFans = 0;
  for (let v = 0; v < mesh.vertices; v++) {
    if (mesh.out[v] < 0) continue;
    const fan = mesh.fan(v);
    expect(fan.every((h) => mesh.from[h] === v)).toBe(true);
    inFans += fan.length;
  }
  // each corner lies in one fan, so that a border's fan was begun at its start
  expect(inFans).toBe(corners);
}

test('splits, collapses and turns keep every link, and the topology', () => {
  const edit = fc.tuple(fc.constantFrom('split', 'collapse', 'turn'), fc.nat());
  fc.assert(
    fc.property(fc.boolean(), fc.array(edit, { maxLength: 60 }), (isOpen, edits) => {
      const { positions, indices } = sculptFromSoup(ballSoup(6));
      const kept = isOpen ? indices.subarray(0, indices.length / 2 - ((indices.length / 2) % 3)) : indices;
      const [mesh] = cleaned({ positions, indices: kept }).parts;
      const before = topologyOf(mesh);
      for (const [kind, at] of edits) {
        const alive: number[] = [];
        for (let h = 0; h < 3 * mesh.triangles; h++) if (mesh.isAlive(Math.floor(h / 3))) alive.push(h);
        const h = alive[at % alive.length];
        if (kind === 'split') mesh.split(h);
        else if (kind === 'turn' && mesh.mayTurn(h)) mesh.turn(h);
        else if (kind === 'collapse' && mayCollapse(mesh, h)) collapse(mesh, h, 0, 0, 0);
        checkLinks(mesh);
      }
      expect(topologyOf(mesh)).toEqual(before);
      const { mesh: compact } = mesh.compact();
      checkLinks(compact);
      expect(topologyOf(compact)).toEqual(before);
    }),
    { numRuns: 150 },
  );
});
