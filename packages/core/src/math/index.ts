export * from './vec3';
export * from './box';
export * from './rng';
export * from './placement';
export * from './mirror';
export * from './curves';
export * from './fits';
export * from './path';
