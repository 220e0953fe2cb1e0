export * from './SculptSurface';
export * from './canonical';
export * from './sculptFromSoup';
export * from './snap';
export * from './standIn';
export * from './symmetry';
export * from './vertexNormals';
export * from './weldExact';
