export * from './Patch';
export * from './plans';
export * from './place';
export * from './fillBorder';
export * from './led';
