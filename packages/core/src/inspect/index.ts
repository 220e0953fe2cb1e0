export * from './budget';
export * from './compareSurfaces';
export * from './faceMeasures';
export * from './findings';
export * from './makeUp';
export * from './sculptDistance';
export * from './soupInfo';
export * from './measurePicked';
