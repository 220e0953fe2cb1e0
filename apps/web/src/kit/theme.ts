/** Colours by role, for both themes; every pair used for text passes WCAG AA. */
export interface Palette {
  paper: string;
  paper2: string;
  raised: string;
  line: string;
  ink: string;
  mute: string;
  glaze: string;
  glazeInk: string;
  glazeSoft: string;
  onGlaze: string;
  honey: string;
  rust: string;
  plum: string;
  kiln: string;
  moss: string;
  clay: string;
  pole3: string;
  pole5: string;
  pole6: string;
  viewTop: string;
  viewBottom: string;
}

/** The light theme. */
export const SLIP: Palette = {
  paper: '#f3eee4', paper2: '#e9e2d4', raised: '#fffdf8', line: '#d3c8b5', ink: '#1f2a30', mute: '#55646b',
  glaze: '#1e7f7a', glazeInk: '#15625e', glazeSoft: '#d3e7e3', onGlaze: '#ffffff', honey: '#e9a820', rust: '#8a4f0e', plum: '#86356f', kiln: '#a8432b',
  moss: '#35683d', clay: '#c4ae93', pole3: '#2c5c8f', pole5: '#6b5a2a', pole6: '#a8432b', viewTop: '#cbd0cf', viewBottom: '#9da5a6',
}; // prettier-ignore

/** The dark theme. */
export const NIGHT_KILN: Palette = {
  paper: '#20262a', paper2: '#2b3237', raised: '#333c42', line: '#47525a', ink: '#eee8dc', mute: '#b3bbb9',
  glaze: '#3fa39c', glazeInk: '#7fd0c8', glazeSoft: '#22474a', onGlaze: '#0c1a1b', honey: '#f0b73a', rust: '#e0a462', plum: '#d68ac0', kiln: '#ee8f76',
  moss: '#8cc796', clay: '#c4ae93', pole3: '#8fbdec', pole5: '#cdb878', pole6: '#ee8f76', viewTop: '#585f62', viewBottom: '#33393c',
}; // prettier-ignore

export type ThemeName = 'slip' | 'night';
export type ThemeChoice = ThemeName | 'system';

declare module 'styled-components' {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type -- the library's own way to type themes
  export interface DefaultTheme extends Palette {}
}
