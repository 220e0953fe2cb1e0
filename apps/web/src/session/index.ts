export * from './api';
export * from './Session';
export type { Drag } from './Drag';
export type { Notice } from './Notice';
export { isLive } from './Latest';
export * from './useSession';
export * from './openSession';
export * from './sculptWorkerClient';
export * from './summary';
export type { SaveState } from './AutoSave';
export { runSlow } from './slowOperators';
export { stepReach } from './stepReach';
export { solidsReady } from '../workers/solids';
export type { MadeMesh, Shipped } from './RecipeWatch';
export { addStep, changeStep, makeRecipeReal, moveStep, removeStep } from './recipeSteps';
export {
  addGuideBody,
  addPiece,
  alsoPlaced,
  changePiece,
  orderPiece,
  partPieces,
  setAside,
  joinPiece,
  pieceFromPicked,
  removePiece,
} from './pieceSteps';
export { Idle } from './Idle';
export { markDone } from './markDone';
export * from './FlowPreview';
export * from './jobs';
export * from './layJobs';
export * from './layTries';
export type { BesideRun, Tell } from './besidePage';
export * from './relaying';
export * from './newerSculpt';
export * from './sheets';
export { newRegion } from './SculptRegions';
export { saveVersion } from './saveVersion';
