export * from './blenny';
export * from './kelp';
export * from './demo';
export * from './lowPolys';
