import * as z from 'zod/mini';
import { addScaled } from '../../math';
import { copyOf, facePatches, Rebuild } from '../../mesh';
import { settledPlace } from '../ground';
import { operator, plural } from '../operator';
import { choice, proposedLength } from '../params';
import { meanLength, only, pickedFaces } from '../picked';
import { Copies } from './fans';
import { heldBack, planOf } from './rims';

const Params = z.object({
  width: proposedLength('Width'),
  height: proposedLength('Height', 'Up along the normal; empty: none'),
  faces: choice('Faces', [['together', 'together'], ['apart', 'each on its own']], 'together'), // prettier-ignore
});

/**
 * Insets picked faces, together or each on its own: a rim of quads of even width, whatever the corners' angles. Where the width would
 * fold a face it is held back, and the report says at what. The rim is in the region of the face it came from.
 */
export const inset = operator({
  name: 'inset',
  title: 'Inset',
  params: Params,
  run(mesh, selection, { width, height, faces: how }, ground) {
    const faces = pickedFaces(mesh, selection, 'Pick the faces to inset.');
    const edges = new Set(faces.flatMap((f) => mesh.faceHalves(f).map((h) => h >> 1)));
    const by = width ?? meanLength(mesh, edges) / 4;
    const plans = (how === 'apart' ? faces.map((f) => [f]) : facePatches(mesh, faces)).map((group) =>
      planOf(mesh, group, ground),
    );
    const held = heldBack(mesh, plans, by);
    const up = height ?? 0;
    const rebuild = new Rebuild(mesh, faces);
    const copies = new Copies();
    for (const { moves } of plans)
      for (const { fan, inward, normal } of moves) {
        const p = mesh.point(fan.vertex);
        const at = settledPlace(p, addScaled(addScaled(p, inward, held), normal, up), up === 0 ? ground : { ...ground, form: null }); // prettier-ignore
        copies.set(fan, rebuild.vertex(at, copyOf(fan.vertex)));
      }
    const inner: number[] = [];
    let rimCount = 0;
    for (const { outlines, rim } of plans) {
      for (const { f, corners } of outlines) inner.push(rebuild.face(corners.map((v) => copies.of(f, v)), f)); // prettier-ignore
      for (const { f, a, b } of rim) {
        rebuild.face([a, b, copies.of(f, b), copies.of(f, a)], f);
        rimCount++;
      }
    }
    const all = rebuild.finish();
    const back = held < by ? `; the width is held at ${Number(held.toPrecision(3))}` : '';
    return {
      selection: only({ faces: inner.map((k) => all[k]) }),
      report: {
        sentence: `${plural(inner.length, 'face')} inset, ${plural(rimCount, 'face')} in the rim, in the region of their faces${back}`,
        counts: { faces: inner.length, rim: rimCount, width: held, height: up },
      },
    };
  },
});
