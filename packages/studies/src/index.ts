export * from './blenny';
export * from './kelp';
