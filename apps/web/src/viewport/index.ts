export * from './ViewState';
export * from './SceneView';
export * from './Viewport';
export type { Hit, ElementHit } from './Picker';
export { distanceColour } from './distanceScale';
export { srgb, type Srgb } from './materials';
