export * from './TriangleMesh';
export * from './isotropic';
