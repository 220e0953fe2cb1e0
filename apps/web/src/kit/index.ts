export * from './theme';
export * from './GlobalStyle';
export * from './controls';
export * from './dialog';
export * from './layout';
export * from './lists';
export * from './shapes';
export * from './ThemeRoot';
