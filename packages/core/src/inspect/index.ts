export * from './budget';
export * from './compareSurfaces';
export * from './makeUp';
export * from './sculptDistance';
export * from './soupInfo';
