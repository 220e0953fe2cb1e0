import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import type { PolyMesh } from '@half-loop/core/mesh';
import { EvenPatches, meanLength, OPERATORS, parseParams, type Operator, type PlaceOnFace } from '@half-loop/core/ops';
import { mirrored } from '@half-loop/core/math';
import { Note } from '../../kit';
import { isLive, useSession } from '../../session';
import type { ViewSettings } from '../../viewport';
import { useBench } from './Bench';

const OP = OPERATORS.get('even-out') as Operator;
type Params = Parameters<EvenPatches['at']>[1];
/** Settings must rest for this long before the whole follows them. */
const REST_MS = 500;

/**
 * Tries the settings of Even out on a patch under the pointer, where the whole would take longer than is live: drawn in the view as long as this is shown.
 * Where the whole was evened out last, it follows the settings.
 */
export function EvenOutPatch(): ReactNode {
  const bench = useBench();
  const session = useSession('mesh', 'selection', 'history', 'settings', 'reset', 'pieces');
  const { mesh, selection, latest, plane } = session;
  const params = parseParams(OP, bench.settings.of(OP.name)) as Params;
  const asked = JSON.stringify(params);
  const wasMade = latest?.op.name === OP.name;
  const isMade = wasMade && JSON.stringify(parseParams(OP, latest.params)) === asked;
  const isTried = mesh.faceCount > 0 && !isMade && (latest && wasMade ? !isLive(latest, mesh, params) : OP.isSlow?.(mesh, params) === true); // prettier-ignore
  const patches = useMemo(
    () => (isTried ? new EvenPatches(mesh, selection, { plane, form: null }) : null),
    // the plane is made anew each time it is asked for
    [isTried, mesh, session.steps.position, selection, JSON.stringify(plane)],
  );
  const place = usePlace(isTried);
  useEffect(() => {
    bench.view.set({ patch: shownBefore((place && patches?.at(place, params)) ?? null) });
    // `asked` stands for `params`
  }, [bench.view, patches, place, asked]);
  useEffect(() => () => bench.view.set({ patch: null }), [bench.view]);
  const refusal = patches?.refusal(params) ?? null;
  const { cancelled } = bench.slow;
  const isCancelled = cancelled !== null && JSON.stringify(parseParams(OP, cancelled)) === asked;
  const follows = isTried && wasMade && refusal === null && !isCancelled;
  useEffect(() => {
    if (!follows) return;
    const rested = setTimeout(() => void bench.runCard(OP), REST_MS);
    return () => clearTimeout(rested);
    // begun again by other settings, not by what the run itself changes
  }, [bench, follows, asked]);
  if (!patches) return null;
  if (refusal) return <Note>{refusal}</Note>;
  const about = `about ${patches.count(params).toLocaleString('en')} ${params.into}`;
  return (
    <Note>
      {place ? 'The patch in the view is as set here' : 'Point at the model to try this on a patch'}; the whole, {about}
      , {follows ? 'follows.' : 'is made beside the page.'}
    </Note>
  );
}

/** A patch of longer edges cuts deeper through a bent form, so that it must stand out further to be seen whole. */
const shownBefore = (mesh: PolyMesh | null): ViewSettings['patch'] =>
  mesh && { mesh, lift: meanLength(mesh, mesh.edges()) * 0.4 };

/** The pointer goes this far before the patch goes with it, pixels. */
const STEP_PX = 12;

/** The place under the pointer; while that is off the model, what it was last, or what is in the middle of the view. */
function usePlace(isWanted: boolean): PlaceOnFace | null {
  const { scene, router, session } = useBench();
  const last = useRef<{ x: number; y: number; place: PlaceOnFace } | null>(null);
  if (!isWanted || !scene) return null;
  if (last.current && !session.mesh.hasFace(last.current.place.face)) last.current = null;
  const { width, height } = scene.camera;
  const middle = { x: width / 2, y: height / 2 };
  for (const { x, y } of [router?.pointer ?? middle, ...(last.current ? [] : [middle])]) {
    if (last.current && Math.hypot(x - last.current.x, y - last.current.y) < STEP_PX) break;
    const hit = scene.picker.onLowPoly(scene.picker.hit(x, y));
    if (!hit) continue;
    const point = hit.mirrored && session.plane ? mirrored(hit.point, session.plane) : hit.point;
    last.current = { x, y, place: { face: hit.face, point } };
    break;
  }
  return last.current?.place ?? null;
}
