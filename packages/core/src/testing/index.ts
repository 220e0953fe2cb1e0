export * from './shapes';
export * from './wildShapes';
