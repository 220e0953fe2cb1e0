import { NONE, type PolyMesh } from '../../mesh';
import { isSeam, type Ground } from '../ground';

/** Faces of one group round one of their vertices, between the two edges where the group ends there. */
export interface Fan {
  vertex: number;
  faces: number[];
  /** the half-edge out of the vertex where the group begins, counter-clockwise, and the one into it where it ends */
  out: number;
  into: number;
}

/** A half-edge where a group ends. */
export interface Rim {
  half: number;
  /** against the mirrored half: no wall is built there */
  seam: boolean;
}

/**
 * The rim of a group and its fans: one for each time that the rim passes a vertex, so that patches that touch in a point come
 * apart there. Cost: the faces.
 */
export function rimAndFans(mesh: PolyMesh, group: readonly number[], ground: Ground): { rim: Rim[]; fans: Fan[] } {
  const inside = new Set(group);
  const isRim = (h: number): boolean => !inside.has(mesh.face(h ^ 1));
  const rim = group.flatMap((f) => mesh.faceHalves(f)).filter(isRim).map((half) => ({ half, seam: isSeam(mesh, half, ground) })); // prettier-ignore
  const fans = rim.map(({ half }): Fan => {
    const faces = [mesh.face(half)];
    let into = mesh.prev(half);
    for (; !isRim(into); into = mesh.prev(into ^ 1)) faces.push(mesh.face(into ^ 1));
    return { vertex: mesh.origin(half), faces, out: half, into };
  });
  return { rim, fans };
}

/** Vertices of a group that no rim passes. */
export function innerVertices(mesh: PolyMesh, group: readonly number[], fans: readonly Fan[]): number[] {
  const rim = new Set(fans.map((f) => f.vertex));
  return [...new Set(group.flatMap((f) => mesh.faceVertices(f)))].filter((v) => !rim.has(v) && v !== NONE);
}

/** Which vertex stands for v in a face of a group, when its fan has a copy. */
export class Copies {
  private readonly at = new Map<number, Map<number, number>>();

  set(fan: Fan, copy: number): void {
    for (const f of fan.faces) {
      const known = this.at.get(f) ?? new Map<number, number>();
      known.set(fan.vertex, copy);
      this.at.set(f, known);
    }
  }
  of(f: number, v: number): number {
    return this.at.get(f)?.get(v) ?? v;
  }
}
