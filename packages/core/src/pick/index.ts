export * from './PickGrid';
export * from './DepthMap';
