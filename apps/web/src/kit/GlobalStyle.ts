import { createGlobalStyle } from 'styled-components';

export const GlobalStyle = createGlobalStyle`
  *, *::before, *::after { box-sizing: border-box; }
  html, body, #root { height: 100%; margin: 0; }
  body {
    background: ${(p) => p.theme.paper};
    color: ${(p) => p.theme.ink};
    font: 13px/1.4 'Hanken Grotesk Variable', system-ui, sans-serif;
    -webkit-font-smoothing: antialiased;
    overscroll-behavior: none;
  }
  h1, h2, h3, p, ul, ol, dl, dd { margin: 0; padding: 0; font-size: inherit; font-weight: inherit; }
  ul, ol { list-style: none; }
  a { color: ${(p) => p.theme.glazeInk}; }
  p[role='alert'] { margin: 6px 0; padding-left: 9px; border-left: 3px solid ${(p) => p.theme.kiln}; }
  :focus-visible, [data-focus-visible] { outline: 2px solid ${(p) => p.theme.glaze}; outline-offset: 2px; }
  kbd, .num { font-family: 'Sometype Mono Variable', ui-monospace, monospace; font-variant-numeric: tabular-nums; }
  @media (prefers-reduced-motion: reduce) { * { transition: none !important; animation: none !important; } }
`;
