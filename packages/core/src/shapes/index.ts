export * from './boxes';
export * from './geodesic';
export * from './sides';
export { ShapeBuilder, type Ends, type Shape } from './Shape';
export * from './turned';
