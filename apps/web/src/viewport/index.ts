export * from './ViewState';
export * from './SceneView';
export * from './Viewport';
export type { Hit, ElementHit } from './Picker';
export { distanceColour } from './distanceScale';
export { MODEL_COLOURS } from './modelColours';
export type { Srgb } from './materials';
export { scaleColour, WARP_RANGE } from './faceLenses';
