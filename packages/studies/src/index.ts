export * from './blenny';
export * from './crab';
export * from './crabRings';
export * from './kelp';
export * from './demo';
export * from './mailCapsule';
export * from './lowPolys';
export * from './whelk';
