import { cross, dot, length, sub, type Vec3 } from '../math';
import { faceCountOf, facesOfCorners, nextCorner, soupEdges, type PolygonSoup } from '../mesh';
import { measureFace, measureSoup, soupPoints, type MeshMeasures } from './faceMeasures';

export type FindingKind =
  | 'non-manifold-edge' | 'non-manifold-point' | 'winding' | 'inward' | 'repeated-face' | 'repeated-corner'
  | 'no-area' | 'folded' | 'n-gon' | 'pole' | 'doubled-points' | 'unused-point' | 'open-border' | 'triangle'
  | 'warped' | 'stretched'; // prettier-ignore
export type Severity = 'fault' | 'warning' | 'note';

/** Something that needs a look: what, where, why, and how it can be mended where an operator can. */
export interface Finding {
  kind: FindingKind;
  severity: Severity;
  /** numbers of the file's points and faces, from 0; edges as pairs of points */
  elements: { vertices?: number[]; edges?: [number, number][]; faces?: number[] };
  message: string;
  fix?: { operator: string; params: object };
}
export interface Inspection {
  findings: Finding[];
  measures: MeshMeasures;
}

/** Beyond these a face is worth a look. Warp and stretch as in topology.md. */
export const FACE_LIMITS = { warp: 0.15, stretch: 8 };

interface Edge {
  ends: [number, number];
  /** corners that leave it, one a face */
  uses: number[];
}

/** Inspects polygons as a file holds them: no repair has hidden anything. Linear but for the doubled points, which are sorted. */
export function inspectSoup(soup: PolygonSoup): Inspection {
  const faceOf = facesOfCorners(soup);
  const edges: Edge[] = [...soupEdges(soup).values()].map((uses) => ({
    uses,
    ends: [soup.corners[uses[0]], soup.corners[nextCorner(soup, faceOf, uses[0])]],
  }));
  const valence = valences(soup, edges);
  const inner = [...valence.keys()].filter((v) => valence[v] > 0);
  const irregular = inner.filter((v) => valence[v] !== 4);
  const lengths = edges.map(({ ends: [a, b] }) => length(sub(pointAt(soup, a), pointAt(soup, b))));
  const findings = [
    ...edgeFindings(edges),
    ...windingFindings(soup, edges),
    ...pointFindings(
      soup,
      faceOf,
      irregular.filter((v) => valence[v] > 5),
    ),
    ...inwardFindings(soup, edges, faceOf),
    ...faceFindings(soup),
  ];
  return { findings, measures: measureSoup(soup, lengths, inner.length, irregular.length) };
}

const pointAt = ({ positions: p }: PolygonSoup, v: number): Vec3 => [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
const counted = (n: number, one: string, many: string): string => `${n} ${n === 1 ? one : many}`;

function list(
  kind: FindingKind,
  severity: Severity,
  elements: Finding['elements'],
  message: (n: number) => string,
  fix?: Finding['fix'],
): Finding[] {
  const n = (elements.edges ?? elements.faces ?? elements.vertices ?? []).length;
  return n > 0 ? [{ kind, severity, elements, message: message(n), ...(fix ? { fix } : {}) }] : [];
}

/** Edges of each inner point; 0 on a border, where no edge is, and where the surface is not one. */
function valences({ positions }: PolygonSoup, edges: Edge[]): Int32Array {
  const valence = new Int32Array(positions.length / 3);
  for (const { ends } of edges) for (const v of ends) valence[v]++;
  for (const { ends, uses } of edges) if (uses.length !== 2) for (const v of ends) valence[v] = 0;
  return valence;
}

function edgeFindings(edges: Edge[]): Finding[] {
  const pick = (test: (n: number) => boolean): [number, number][] => edges.filter((e) => test(e.uses.length)).map((e) => e.ends); // prettier-ignore
  return [
    ...list('non-manifold-edge', 'fault', { edges: pick((n) => n > 2) }, (n) => `${counted(n, 'edge has', 'edges have')} more than two faces: no engine knows which side is out.`), // prettier-ignore
    ...list('open-border', 'note', { edges: pick((n) => n === 1) }, (n) => `${counted(n, 'edge is', 'edges are')} open: a border, or a hole.`), // prettier-ignore
  ];
}

/** Neighbours that leave their common edge the same way are wound against each other. */
function windingFindings({ corners }: PolygonSoup, edges: Edge[]): Finding[] {
  const against = edges.filter(({ uses }) => uses.length === 2 && corners[uses[0]] === corners[uses[1]]);
  return list('winding', 'fault', { edges: against.map((e) => e.ends) }, (n) => `At ${counted(n, 'edge', 'edges')} two neighbours are wound against each other: one of them will be culled.`); // prettier-ignore
}

function pointFindings(soup: PolygonSoup, faceOf: Uint32Array, highPoles: number[]): Finding[] {
  const { positions, corners } = soup;
  const points = positions.length / 3;
  const used = new Uint8Array(points);
  for (const v of corners) used[v] = 1;
  const order = [...used.keys()].filter((v) => used[v]).sort((a, b) => positions[3 * a] - positions[3 * b] || positions[3 * a + 1] - positions[3 * b + 1] || positions[3 * a + 2] - positions[3 * b + 2]); // prettier-ignore
  const same = (a: number, b: number): boolean => [0, 1, 2].every((k) => positions[3 * a + k] === positions[3 * b + k]);
  const pairs: [number, number][] = [];
  for (let i = 1; i < order.length; i++) if (same(order[i - 1], order[i])) pairs.push([order[i], order[i - 1]]);
  return [
    ...list('non-manifold-point', 'fault', { vertices: touchingFans(soup, faceOf) }, (n) => `${counted(n, 'point holds', 'points hold')} two fans of faces that touch in nothing else.`), // prettier-ignore
    ...list('doubled-points', 'warning', { vertices: pairs.map(([v]) => v) }, (n) => `${counted(n, 'point lies', 'points lie')} exactly on another without being welded to it.`, { operator: 'weld', params: { pairs } }), // prettier-ignore
    ...list('pole', 'warning', { vertices: highPoles }, (n) => `${counted(n, 'pole has', 'poles have')} six edges or more: a pinch on smooth forms.`), // prettier-ignore
    ...list('unused-point', 'note', { vertices: [...used.keys()].filter((v) => !used[v]) }, (n) => `${counted(n, 'point belongs', 'points belong')} to no face.`), // prettier-ignore
  ];
}

/** Points whose faces do not hang together over edges at the point. */
function touchingFans(soup: PolygonSoup, faceOf: Uint32Array): number[] {
  const { corners, positions } = soup;
  const around: number[][] = Array.from({ length: positions.length / 3 }, () => []);
  corners.forEach((v, c) => around[v].push(c));
  return around.flatMap((list, v) => {
    if (list.length < 2) return [];
    // each face at the point has two edges there, named by their other ends; faces that share one hang together
    const ends = list.map((c) => [corners[nextCorner(soup, faceOf, c)], corners[previousCorner(soup, faceOf, c)]]);
    const seen = new Set([0]);
    const open = [0];
    for (let i = open.pop(); i !== undefined; i = open.pop())
      ends.forEach((e, j) => {
        if (seen.has(j) || !e.some((w) => ends[i as number].includes(w))) return;
        seen.add(j);
        open.push(j);
      });
    return seen.size < list.length ? [v] : [];
  });
}
const previousCorner = ({ faceStarts }: PolygonSoup, faceOf: Uint32Array, c: number): number =>
  c > faceStarts[faceOf[c]] ? c - 1 : faceStarts[faceOf[c] + 1] - 1;

/** Closed pieces whose volume is negative face inward as a whole. */
function inwardFindings(soup: PolygonSoup, edges: Edge[], faceOf: Uint32Array): Finding[] {
  const piece = Int32Array.from({ length: faceCountOf(soup) }, (_, f) => f);
  const find = (f: number): number => {
    while (piece[f] !== f) f = piece[f] = piece[piece[f]];
    return f;
  };
  for (const { uses } of edges) for (const c of uses) piece[find(faceOf[c])] = find(faceOf[uses[0]]);
  const open = new Set(edges.filter((e) => e.uses.length !== 2).map((e) => find(faceOf[e.uses[0]])));
  const volumes = new Map<number, number>();
  for (let f = 0; f < piece.length; f++) {
    const [a, ...rest] = soupPoints(soup, f);
    let volume = 0;
    for (let i = 0; i + 1 < rest.length; i++) volume += dot(a, cross(rest[i], rest[i + 1]));
    volumes.set(find(f), (volumes.get(find(f)) ?? 0) + volume);
  }
  const inward = [...piece.keys()].filter((f) => !open.has(find(f)) && (volumes.get(find(f)) ?? 0) < 0);
  return list('inward', 'fault', { faces: inward }, (n) => `${counted(n, 'face of a closed piece looks', 'faces of closed pieces look')} inward.`); // prettier-ignore
}

function faceFindings(soup: PolygonSoup): Finding[] {
  const found: Record<'triangle' | 'ngon' | 'noArea' | 'folded' | 'warped' | 'stretched' | 'repeated' | 'again', number[]> = { triangle: [], ngon: [], noArea: [], folded: [], warped: [], stretched: [], repeated: [], again: [] }; // prettier-ignore
  const known = new Set<string>();
  for (let f = 0; f < faceCountOf(soup); f++) {
    const ids = [...soup.corners.subarray(soup.faceStarts[f], soup.faceStarts[f + 1])];
    const key = ids.toSorted((a, b) => a - b).join();
    if (known.has(key)) found.again.push(f);
    known.add(key);
    if (new Set(ids).size !== ids.length) found.repeated.push(f);
    if (ids.length === 3) found.triangle.push(f);
    if (ids.length > 4) found.ngon.push(f);
    const { area, cornerQuality, warp, stretch } = measureFace(soupPoints(soup, f));
    if (area === 0) found.noArea.push(f);
    else if (ids.length === 4 && cornerQuality < 0) found.folded.push(f);
    else if (ids.length === 4 && warp > FACE_LIMITS.warp) found.warped.push(f);
    if (area > 0 && stretch > FACE_LIMITS.stretch) found.stretched.push(f);
  }
  return [
    ...list('repeated-face', 'fault', { faces: found.again }, (n) => `${counted(n, 'face lies', 'faces lie')} on the points of another.`), // prettier-ignore
    ...list('repeated-corner', 'fault', { faces: found.repeated }, (n) => `${counted(n, 'face uses', 'faces use')} a point twice.`), // prettier-ignore
    ...list('no-area', 'fault', { faces: found.noArea }, (n) => `${counted(n, 'face has', 'faces have')} no area.`),
    ...list('folded', 'fault', { faces: found.folded }, (n) => `${counted(n, 'quad is', 'quads are')} concave or folded.`), // prettier-ignore
    ...list('n-gon', 'fault', { faces: found.ngon }, (n) => `${counted(n, 'face has', 'faces have')} more than four sides: never in what ships.`), // prettier-ignore
    ...list('warped', 'warning', { faces: found.warped }, (n) => `${counted(n, 'quad bends', 'quads bend')} out of its plane by more than ${FACE_LIMITS.warp * 100} % of its edges.`), // prettier-ignore
    ...list('stretched', 'warning', { faces: found.stretched }, (n) => `${counted(n, 'face is', 'faces are')} more than ${FACE_LIMITS.stretch} times longer than wide.`), // prettier-ignore
    ...list('triangle', 'note', { faces: found.triangle }, (n) => `${counted(n, 'face is a triangle', 'faces are triangles')}: only where nothing bends.`), // prettier-ignore
  ];
}
