import type { ReactNode } from 'react';
import styled, { useTheme } from 'styled-components';
import { FLOW_GLYPHS } from './flowGlyphs';
import { LAY_GLYPHS } from './layGlyphs';

const corners = (n: number, turn: number): string =>
  Array.from({ length: n }, (_, i) => {
    const a = (i / n) * 2 * Math.PI + turn;
    return `${(8 + 7 * Math.sin(a)).toFixed(2)},${(8 - 7 * Math.cos(a)).toFixed(2)}`;
  }).join(' ');

/** A pole's shape: triangle, pentagon or hexagon, the same in the view, the ledger and every report. */
export function PoleShape({ kind, size = 16 }: { kind: 'three' | 'five' | 'sixPlus'; size?: number }): ReactNode {
  const theme = useTheme();
  const [n, colour, turn] = { three: [3, theme.pole3, 0], five: [5, theme.pole5, 0], sixPlus: [6, theme.pole6, 0] }[
    kind
  ] as [number, string, number];
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden>
      <polygon points={corners(n, turn)} fill={colour} />
    </svg>
  );
}

const Glyph = styled.svg`
  width: 20px;
  height: 20px;
  flex: none;
  fill: none;
  stroke: currentColor;
  stroke-width: 1.6;
  stroke-linecap: round;
  stroke-linejoin: round;
  .soft {
    opacity: 0.45;
    stroke-dasharray: 2 2.4;
  }
  .dot {
    fill: currentColor;
    stroke: none;
  }
`;
/** One glyph a tool: a small before (dashed) and after of what it does. */
const PATHS: Record<string, ReactNode> = {
  ...FLOW_GLYPHS,
  ...LAY_GLYPHS,
  quad: (
    <>
      <path d="M4 5 16 4 15 16 5 15Z" />
      <circle className="dot" cx="4" cy="5" r="1.7" />
      <circle className="dot" cx="16" cy="4" r="1.7" />
      <circle className="dot" cx="15" cy="16" r="1.7" />
    </>
  ),
  'draw-out': (
    <>
      <path d="M3 4h6v12H3z" />
      <path className="soft" d="M9 4h8v12H9" />
      <path d="M13 10h4m-1.8-1.8L17 10l-1.8 1.8" />
    </>
  ),
  select: (
    <>
      <path className="soft" d="M3 3h14v14H3z" />
      <path d="M7 7h6v6H7z" />
      <circle className="dot" cx="7" cy="7" r="1.5" />
      <circle className="dot" cx="13" cy="13" r="1.5" />
    </>
  ),
  weld: (
    <>
      <path className="soft" d="M3 10h5m4 0h5" />
      <circle cx="10" cy="10" r="2.2" />
      <path d="M4 4l4 4m8-4-4 4M4 16l4-4m8 4-4-4" />
    </>
  ),
  'make-real': (
    <>
      <path d="M10 2v16" />
      <path d="M8 5 3 7v6l5 2z" />
      <path className="soft" d="m12 5 5 2v6l-5 2z" />
    </>
  ),
  sculpt: <path d="M3 12c0-5 3-9 7-9s7 4 7 8-3 6-7 6-7-1-7-5Zm4-2c1-2 2-3 4-3" />,
  look: (
    <>
      <path d="M2 10c3-5 13-5 16 0-3 5-13 5-16 0Z" />
      <circle cx="10" cy="10" r="2.4" />
    </>
  ),
  budget: <path d="M4 16V9m4 7V5m4 11v-5m4 5V8" />,
  version: <path d="M4 6h12M4 10h12M4 14h7m4 0h.5" />,
  file: <path d="M10 3v9m-3.5-3L10 12.500 13.500 9M4 16.500h12" />,
};
export function ToolGlyph({ name }: { name: string }): ReactNode {
  return (
    <Glyph viewBox="0 0 20 20" aria-hidden>
      {PATHS[name]}
    </Glyph>
  );
}
