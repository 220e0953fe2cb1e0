import { cut } from './cut/cut';
import { cutFaces } from './cut/cutFaces';
import { pairTriangles } from './cut/pairTriangles';
import { poke } from './cut/poke';
import { spin } from './cut/spin';
import { split } from './cut/split';
import { deletePicked } from './deletePicked';
import { drawOut } from './drawOut';
import { collapse } from './join/collapse';
import { connect } from './join/connect';
import { stitch } from './join/stitch';
import { weldPicked, weldWithin } from './join/weldPicked';
import { bridge } from './lay/bridge';
import { bringBack } from './lay/bringBack';
import { pin } from './place/pin';
import { cap } from './lay/cap';
import { closeCells } from './lay/closeCells';
import { fill } from './lay/fill';
import { layRing } from './lay/layRing';
import { layRow } from './lay/layRow';
import { mirrorOver } from './lay/mirrorOver';
import { ringOpening } from './lay/ringOpening';
import { besideMidline, toMidline } from './lay/toMidline';
import { markBorder, setRegion } from './lay/regions';
import { layThread } from './lay/thread';
import { tieThreads } from './lay/tieThreads';
import { relay } from './lay/relay';
import { layFace } from './layFace';
import { dissolve } from './loops/dissolve';
import { fair } from './loops/fair';
import { insertLoops } from './loops/insertLoops';
import { relax, smooth } from './loops/relax';
import { slide } from './loops/slide';
import { trueUp } from './loops/true';
import { makeReal } from './makeReal';
import { meantToBe, mend } from './mend/mend';
import { movePoints } from './movePoints';
import type { Operator } from './operator';
import { brush } from './place/brush';
import { settlePiece } from './place/settlePiece';
import { transform } from './place/transform';
import { drawAlong } from './add/drawAlong';
import { SHAPES } from './add/shapes';
import { booleanParts } from './solid/boolean';
import { bore } from './solid/bore';
import { copies } from './solid/copies';
import { deform } from './solid/deform';
import { evenOut } from './solid/evenOut';
import { groove } from './solid/groove';
import { holdingBorders } from './solid/holdingBorders';
import { joinHalves } from './solid/joinHalves';
import { joinSectors } from './solid/joinSectors';
import { keepSector } from './solid/keepSector';
import { lattice } from './solid/lattice';
import { recoverCoarser } from './solid/recoverCoarser';
import { studs } from './solid/studs';
import { thicken } from './solid/thicken';
import { routeOn } from './route/routeOn';
import { bevel } from './shape/bevel';
import { crease } from './shape/crease';
import { extrude } from './shape/extrude';
import { inset } from './shape/inset';
import { subdivideMesh } from './shape/subdivideMesh';
import { weld } from './weld';

export * from './operator';
export * from './ground';
export { liftedForm } from './liftedForm';
export { Curve, FIELDS, type Corner, type Field, type Unit } from './params';
export { pickedVertices, verticesOf, edgeLength, meanLength } from './picked';
export { outwardAt, rowPlaces, uniqueEnds } from './rowPlaces';
export { openHalf } from './drawOut';
export { pairsWithin } from './weld';
export type { Anchor } from './cut/cut';
export { middleOfPicked } from './place/transform';
export { frameOfPicked } from './place/frame';
export { pivotOf } from './place/settlePiece';
export { deformedPlaces } from './solid/deform';
export { latticeBox, latticePoints } from './solid/lattice';
export { weightsIn } from './place/brush';
export { regionBorder, regionFaces, regionOfFaces, REGION_CHANNEL } from './lay/regions';
export { wholeParts } from './solid/copyPatch';
export { EvenPatches, type PlaceOnFace } from './solid/EvenPatches';
export { threadEnds } from './lay/thread';
export { closesCell, threadCells, withCell, type CellChoice, type ThreadCell } from './lay/closeCells';
export { threadTroubles, type ThreadTroubles } from './lay/tieThreads';
export { waysToFill } from './lay/fill';
export { openingAt, sidesOf, type Opening } from './lay/openings';
export { loopStops, stopWords, type LoopStop } from './route/loopStops';
export { routesOn } from './route/routes';
export { noWayWords, routeWords } from './route/routeOn';
export * from './recipe/recipe';
export { loadSolids } from './solid/solids';
export { ontoSeam, seamOf, turnedOn, type Seam, type Sectors } from './solid/sectors';
export { SHAPES } from './add/shapes';
export { repairFor, type Repair } from './mend/mend';
export {
  bevel,
  booleanParts,
  bore,
  bridge,
  besideMidline,
  bringBack,
  pin,
  brush,
  cap,
  closeCells,
  tieThreads,
  collapse,
  connect,
  copies,
  crease,
  cut,
  cutFaces,
  deform,
  deletePicked,
  dissolve,
  drawAlong,
  drawOut,
  evenOut,
  extrude,
  fair,
  fill,
  groove,
  holdingBorders,
  insertLoops,
  inset,
  joinHalves,
  joinSectors,
  keepSector,
  lattice,
  layFace,
  layRing,
  layRow,
  layThread,
  makeReal,
  markBorder,
  meantToBe,
  mend,
  mirrorOver,
  movePoints,
  pairTriangles,
  poke,
  recoverCoarser,
  relax,
  relay,
  ringOpening,
  routeOn,
  setRegion,
  settlePiece,
  slide,
  smooth,
  spin,
  split,
  stitch,
  studs,
  subdivideMesh,
  thicken,
  toMidline,
  transform,
  trueUp,
  weld,
  weldPicked,
  weldWithin,
};

const ALL = [
  layFace,
  layRow,
  layRing,
  ringOpening,
  layThread,
  relay,
  closeCells,
  tieThreads,
  setRegion,
  markBorder,
  fill,
  cap,
  bridge,
  toMidline,
  mirrorOver,
  bringBack,
  pin,
  drawOut,
  movePoints,
  deletePicked,
  makeReal,
  insertLoops,
  dissolve,
  slide,
  fair,
  trueUp,
  relax,
  smooth,
  routeOn,
  weld,
  weldPicked,
  weldWithin,
  stitch,
  connect,
  collapse,
  cut,
  cutFaces,
  spin,
  split,
  poke,
  pairTriangles,
  mend,
  meantToBe,
  extrude,
  inset,
  bevel,
  subdivideMesh,
  crease,
  transform,
  brush,
  ...SHAPES,
  drawAlong,
  joinHalves,
  joinSectors,
  keepSector,
  thicken,
  holdingBorders,
  groove,
  bore,
  copies,
  studs,
  deform,
  lattice,
  settlePiece,
  recoverCoarser,
  evenOut,
  booleanParts,
];

/** Every operator, by name. */
export const OPERATORS: ReadonlyMap<string, Operator> = new Map(
  (ALL as unknown as Operator[]).map((op) => [op.name, op]),
);
