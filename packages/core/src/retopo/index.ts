export * from './layAll';
export * from './options';
export { quadSoup, type QuadSoup } from './extract';
export type { Stage } from './Stages';
export type { Triangles } from './clean';
export { mirrored as bothHalves } from './halve';
export { qualityOf } from './verify';
export { surfaceOfQuads } from './fit';
