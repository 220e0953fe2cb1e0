export * from './camera';
export * from './rasterize';
