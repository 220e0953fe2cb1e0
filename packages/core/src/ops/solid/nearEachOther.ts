import { boxCentre, boxDiagonal, boxSize, type Box, type Vec3 } from '../../math';
import { boxOfFaces, facePatches, type PolyMesh } from '../../mesh';
import { reaches, solidAngles, solidReach, type SolidReach } from './solidReach';

/** Something of the one part and something of the other. */
type Pair<T> = [T, T];
/** Of a closed part: faces that the other may cross, and what closes them again. */
export type NearSolid = Pick<SolidReach, 'faces' | 'points' | 'closing'>;
/** Faces of a part that touch nothing of the other, by whether it encloses them. */
export interface FarFaces {
  inside: number[];
  outside: number[];
}

/** A box has no side shorter than this share of its diagonal: closing triangles need room beyond all of them. */
const LEAST_SIDE = 1 / 32;
/** More patches than this are not looked at one by one. */
const MOST_PATCHES = 32;
/** Boxes that still grow after so many rounds are no good. */
const ROUNDS = 8;

/**
 * Where two closed parts may cross: places with nothing in common, each with faces of both that are closed again there, and all faces that lie
 * at none, whose patches are inside or outside as a whole. Null where the parts are clear of each other, or cannot be closed clear
 * of each other. Cost: the faces for every place and round, mostly three, and a solid angle of all the other's faces for each
 * patch that its box meets.
 */
export function nearEachOther(
  mesh: PolyMesh,
  a: readonly number[],
  b: readonly number[],
): { places: Pair<NearSolid>[]; far: Pair<FarFaces> } | null {
  const parts: Pair<readonly number[]> = [a, b];
  const boxes = apart(mesh, parts, pairsOf(mesh, parts).map((pair) => pairOf((k) => roomy(boxOfFaces(mesh, pair[k]))))); // prettier-ignore
  const places: Pair<NearSolid>[] = [];
  for (const box of boxes ?? []) {
    const [one, other] = pairOf((k) => nearSolid(mesh, parts[k], box[1 - k]));
    if (!one || !other) return null;
    places.push([one, other]);
  }
  const [one, other] = pairOf((k) => farFaces(mesh, parts[k], new Set(places.flatMap((p) => p[k].faces)), parts[1 - k])); // prettier-ignore
  return places.length > 0 && one && other ? { places, far: [one, other] } : null;
}

const pairOf = <T>(of: (k: 0 | 1) => T): Pair<T> => [of(0), of(1)];

/** Patches of both that may meet: each only what the box of the other reaches, again and again until neither shrinks, then patch by patch. */
function pairsOf(mesh: PolyMesh, parts: Pair<readonly number[]>): Pair<readonly number[]>[] {
  const pair: Pair<readonly number[]> = [...parts];
  for (let before = Infinity; pair[0].length + pair[1].length < before;) {
    before = pair[0].length + pair[1].length;
    for (const k of [0, 1]) {
      const box = boxOfFaces(mesh, pair[1 - k]);
      pair[k] = pair[k].filter((f) => reaches(mesh, f, box));
      if (pair[k].length === 0) return [];
    }
  }
  for (const k of [0, 1]) {
    const patches = facePatches(mesh, pair[k]);
    if (patches.length > 1 && patches.length <= MOST_PATCHES)
      return patches.flatMap((patch) => pairsOf(mesh, k === 0 ? [patch, pair[1]] : [pair[0], patch]));
  }
  return [pair];
}

/** Boxes round what each may cross of the other, grown and joined until no face is reached by two. Null where they go on growing. */
function apart(mesh: PolyMesh, parts: Pair<readonly number[]>, begun: readonly Pair<Box>[]): Pair<Box>[] | null {
  let boxes = [...begun];
  for (let round = 0; round < ROUNDS; round++) {
    const owner = new Map<number, number>();
    const into = boxes.map((_, i) => i);
    const grown = boxes.map((box, i) =>
      pairOf((k) => {
        const own = parts[k].filter((f) => reaches(mesh, f, box[1 - k]));
        for (const f of own) into[i] = Math.min(into[i], owner.get(f) ?? i);
        for (const f of own) owner.set(f, into[i]);
        return around(box[k], roomy(boxOfFaces(mesh, own)));
      }),
    );
    const joined = new Map<number, Pair<Box>>();
    grown.forEach((box, i) => {
      const known = joined.get(into[i]);
      joined.set(into[i], known ? pairOf((k) => around(known[k], box[k])) : box);
    });
    const isStable = joined.size === boxes.length && grown.every((box, i) => same(box[0], boxes[i][0]) && same(box[1], boxes[i][1])); // prettier-ignore
    if (isStable) return boxes;
    boxes = [...joined.values()];
  }
  return null;
}

function nearSolid(mesh: PolyMesh, part: readonly number[], box: Box): NearSolid | null {
  if (part.every((f) => reaches(mesh, f, box))) return { faces: [...part], points: [], closing: [] };
  return solidReach(mesh, part, box);
}

/** Null where a patch lies too near the other to tell. */
function farFaces(
  mesh: PolyMesh,
  part: readonly number[],
  near: ReadonlySet<number>,
  other: readonly number[],
): FarFaces | null {
  const box = boxOfFaces(mesh, other);
  const far: FarFaces = { inside: [], outside: [] };
  const left = part.filter((f) => !near.has(f));
  for (const patch of facePatches(mesh, left)) {
    let isInside = false;
    if (patch.some((f) => reaches(mesh, f, box))) {
      const turns = solidAngles(mesh, other, mesh.point(mesh.faceVertices(patch[0])[0])) / (4 * Math.PI);
      if (Math.abs(turns - Math.round(turns)) > 0.1) return null;
      isInside = Math.round(turns) > 0;
    }
    const into = isInside ? far.inside : far.outside;
    for (const f of patch) into.push(f);
  }
  return far;
}

function roomy(box: Box): Box {
  const least = LEAST_SIDE * boxDiagonal(box);
  const centre = boxCentre(box);
  const half = boxSize(box).map((side) => Math.max(side, least) / 2);
  return boxFrom(
    (k) => centre[k] - half[k],
    (k) => centre[k] + half[k],
  );
}
const around = (a: Box, b: Box): Box =>
  boxFrom(
    (k) => Math.min(a.min[k], b.min[k]),
    (k) => Math.max(a.max[k], b.max[k]),
  );
const boxFrom = (min: (k: number) => number, max: (k: number) => number): Box => ({
  min: [0, 1, 2].map(min) as unknown as Vec3,
  max: [0, 1, 2].map(max) as unknown as Vec3,
});
const same = (a: Box, b: Box): boolean =>
  a.min.every((c, k) => c === b.min[k]) && a.max.every((c, k) => c === b.max[k]);
