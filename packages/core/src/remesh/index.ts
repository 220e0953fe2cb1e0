export * from './TriangleMesh';
export * from './isotropic';
export * from './withinBall';
