import * as z from 'zod/mini';
import { EMPTY_SELECTION } from '../../mesh';
import { operator, plural } from '../operator';
import { choice, count, share, toggle } from '../params';
import { pickedVertices } from '../picked';
import { relaxStep } from './relaxing';

/**
 * Evens points out on the surface: density kept or evened, borders, hard edges and region borders sliding along
 * themselves or held, corners staying, back onto the form after each pass. Never folds a face. With nothing picked
 * the whole mesh. Cost: the points, times the passes.
 */
export const relax = operator({
  name: 'relax',
  title: 'Relax',
  params: z.object({
    strength: share('Strength', { min: 0, max: 1, start: 0.5 }),
    passes: count('Passes', { min: 1, max: 100, start: 5 }),
    density: choice('Sizes', [['keep', 'as they are'], ['even', 'evened out']], 'keep'), // prettier-ignore
    hold: toggle('Hold borders and hard edges', false, 'Else they slide along themselves'),
  }),
  run(mesh, selection, { strength, passes, density, hold }, ground) {
    const nothing = selection.vertices.length + selection.edges.length + selection.faces.length === 0;
    const ids = nothing ? [...mesh.vertices()] : pickedVertices(mesh, selection);
    const weights = new Map(ids.map((v) => [v, strength]));
    let distance = 0;
    for (let i = 0; i < passes; i++)
      distance = Math.max(distance, relaxStep(mesh, weights, { density, tangential: true, holdLines: hold }, ground));
    return {
      selection: nothing ? EMPTY_SELECTION : selection,
      report: {
        sentence: `${plural(ids.length, 'point')} relaxed`,
        counts: { vertices: ids.length, passes, distance },
      },
    };
  },
});

/** A pass back after each pass forward keeps the size of the form (Taubin 1995); its share of the first. */
const BACK = -1.04;

/**
 * Smooths bumps away: points go to the middle of their neighbours, off the surface too. By choice each pass is
 * followed by one back, which keeps the size of the form. Borders are held, or smoothed as lines. Never folds a face.
 */
export const smooth = operator({
  name: 'smooth',
  title: 'Smooth',
  params: z.object({
    strength: share('Strength', { min: 0, max: 1, start: 0.5 }),
    passes: count('Passes', { min: 1, max: 100, start: 5 }),
    keepSize: toggle('Keep the size', true, 'Else round forms shrink'),
    hold: toggle('Hold borders and hard edges', true),
  }),
  run(mesh, selection, { strength, passes, keepSize, hold }, ground) {
    const nothing = selection.vertices.length + selection.edges.length + selection.faces.length === 0;
    const ids = nothing ? [...mesh.vertices()] : pickedVertices(mesh, selection);
    const options = { density: 'even', tangential: false, holdLines: hold } as const;
    let distance = 0;
    for (let i = 0; i < passes; i++)
      for (const share of keepSize ? [strength, strength * BACK] : [strength])
        distance = Math.max(distance, relaxStep(mesh, new Map(ids.map((v) => [v, share])), options, ground));
    return {
      selection: nothing ? EMPTY_SELECTION : selection,
      report: {
        sentence: `${plural(ids.length, 'point')} smoothed`,
        counts: { vertices: ids.length, passes, distance },
      },
    };
  },
});
