import { expose } from 'comlink';
import type { Vec3 } from '@half-loop/core/math';
import { decodeMesh } from '@half-loop/core/mesh';
import { relaid, type Relaid, type RelayAsked } from '@half-loop/core/retopo';
import { SculptSurface, type TriangleData } from '@half-loop/core/surface';

const api = {
  /** Picked faces of a packed low-poly laid anew, on the given triangles if there are any; `tell` hears of each stage. */
  relay(
    piece: Uint8Array,
    faces: number[],
    asked: RelayAsked,
    form: TriangleData | null,
    tell: (stage: string, done: number) => void,
  ): Relaid {
    tell('Form', 0);
    const surface = form && SculptSurface.build(form);
    const onto = surface && ((p: Vec3): Vec3 => surface.closest(p).point);
    return relaid(decodeMesh(piece), faces, asked, onto, { stage: tell });
  },
};

export type RelayWorker = typeof api;
expose(api);
