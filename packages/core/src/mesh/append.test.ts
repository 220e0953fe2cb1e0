import { describe, expect, it } from 'vitest';
import { crease, runOperator } from '../ops';
import { cubeMesh, gridMesh } from '../testing';
import { appendFaces, checkInvariants, components, EMPTY_SELECTION, FILE_CHANNELS, joinedMeshes } from '.';

describe('faces of one mesh in another', () => {
  it('come with all their attributes, channels and all, and leave the others where they are', () => {
    const source = cubeMesh();
    runOperator(source, crease, { ...EMPTY_SELECTION, edges: [...source.edges()] }, { weight: 3 });
    const groups = source.channel(FILE_CHANNELS.groups);
    const uvs = source.channel(FILE_CHANNELS.uvs);
    for (const f of source.faces()) {
      groups.set(f, 7);
      source.faceHalves(f).forEach((h, i) => uvs.set(h, i / 4, 0));
    }
    const target = gridMesh(2, 2);
    const made = appendFaces(target, source, [0, 1, 2]);
    expect(checkInvariants(target)).toEqual([]);
    expect([target.faceCount, made.length]).toEqual([7, 3]);
    for (const f of made) {
      expect(target.findChannel('face', 'group')?.get(f)).toBe(7);
      expect(target.faceHalves(f).map((h) => target.findChannel('corner', 'uv')?.get(h))).toEqual([0, 0.25, 0.5, 0.75]);
      for (const h of target.faceHalves(f)) expect(target.findChannel('edge', 'crease')?.get(h >> 1)).toBe(3);
    }
    expect(target.findChannel('face', 'group')?.get(0)).not.toBe(7);
    expect(source.faceCount).toBe(6);
  });
  it('several meshes become one of as many parts', () => {
    const all = joinedMeshes([cubeMesh(), gridMesh(2, 2), cubeMesh()]);
    expect(checkInvariants(all)).toEqual([]);
    expect([all.faceCount, components(all).length]).toEqual([16, 3]);
  });
});
