import type { ReactNode } from 'react';

/** Glyphs of Flow's cards: before dashed, after in full. */
export const FLOW_GLYPHS: Record<string, ReactNode> = {
  lasso: (
    <>
      <path className="soft" d="M4 8c0-4 12-5 13 0s-12 6-13 0Z" />
      <circle className="dot" cx="8" cy="8" r="1.4" />
      <circle className="dot" cx="13" cy="8" r="1.4" />
      <path d="M7 13c-1 2 0 4 2 4" />
    </>
  ),
  kept: (
    <>
      <path className="soft" d="M3 3h9v9H3z" />
      <path d="M8 8h9v9H8zM11 12.500l1.500 1.500 2.500-3" />
    </>
  ),
  shape: (
    <>
      <path className="soft" d="M4 16h12" />
      <path d="M5 15V8l5-3 5 3v7M5 8l5 3 5-3M10 11v5" />
    </>
  ),
  pieces: (
    <>
      <path d="M3 3h7v7H3z" />
      <path className="soft" d="M12 5h5v5h-5zM6 12h5v5H6zM13 12h4v4h-4z" />
    </>
  ),
  recipe: (
    <>
      <path d="M4 4h3v3H4zM4 13h3v3H4z" />
      <path className="soft" d="M10 5.500h7M10 10h7M10 14.500h7M5.500 7v6" />
    </>
  ),
  'join-sectors': (
    <>
      <path className="soft" d="M10 10 4 4.5M10 10l6.5-5M10 10l1 7.5" />
      <path d="M10 10 4 4.5A8 8 0 0 0 11 17.5z" />
      <circle className="dot" cx="10" cy="10" r="1.6" />
    </>
  ),
  'keep-sector': (
    <>
      <path className="soft" d="M10 10 4 4.5A8 8 0 0 0 11 17.5z" />
      <path d="M10 10 4 4.5A8 8 0 0 1 16.5 5z" />
    </>
  ),
  'join-halves': (
    <>
      <path className="soft" d="M10 3v14" />
      <path d="M8 4H3v12h5M12 4h5v12h-5M8 10h4" />
    </>
  ),
  settle: (
    <>
      <path className="soft" d="M3 16h14M10 3v4" />
      <path d="M6 9h8v6H6z" />
      <circle className="dot" cx="10" cy="16" r="1.6" />
    </>
  ),
  lattice: (
    <>
      <path className="soft" d="M3 3h14v14H3zM10 3v14M3 10h14" />
      <path d="M3 17C8 17 8 9 17 6" />
      <circle className="dot" cx="10" cy="10" r="1.6" />
    </>
  ),
  'draw-along': (
    <>
      <path className="soft" d="M3 16c3-8 8-10 14-11" />
      <path d="m2 13 4 2M5 8l4 3M10 4l2 5M16 2.500v5" />
    </>
  ),
  'even-out': (
    <>
      <path className="soft" d="M3 3h5v3H3zM8 3h9v8" />
      <path d="M3 8h4.500v4.500H3zM7.500 8H12v4.500H7.500zM3 12.500h4.500V17H3zM7.500 12.500H12V17H7.500z" />
    </>
  ),
  'pick-by': (
    <>
      <path className="soft" d="M3 6h9M3 10h9M3 14h5" />
      <path d="m11 14 2 2 4-5" />
    </>
  ),
  rhythm: <path d="M3 16V6m4 10V6m7 10V6m4 10V6M10.500 16v-1" />,
  'insert-loops': (
    <>
      <path className="soft" d="M3 4h14v12H3z" />
      <path d="M10 4v12" />
      <path d="m8 8 2-2 2 2" />
    </>
  ),
  slide: (
    <>
      <path className="soft" d="M6 3v14" />
      <path d="M13 3v14M7 10h5m-1.800-1.800L12 10l-1.800 1.800" />
    </>
  ),
  dissolve: (
    <>
      <path d="M3 4h14v12H3z" />
      <path className="soft" d="M10 4v12" />
    </>
  ),
  fair: (
    <>
      <path className="soft" d="M3 15 8 7l4 7 5-9" />
      <path d="M3 15C6 8 12 12 17 5" />
    </>
  ),
  true: (
    <>
      <path className="soft" d="M4 11c0-5 3-7 6-6s7 1 6 6-4 6-7 5-5-2-5-5Z" />
      <circle cx="10" cy="10" r="6" />
    </>
  ),
  relax: (
    <>
      <path className="soft" d="M3 4h4l10 0M3 9l3 1 11-1M3 16h14" />
      <path d="M3 4v12M10 4v12M17 4v12M3 10h14" />
    </>
  ),
  smooth: (
    <>
      <path className="soft" d="m3 12 3-5 3 6 4-7 4 6" />
      <path d="M3 11c4-3 10-3 14 0" />
    </>
  ),
  'weld-picked': (
    <>
      <path className="soft" d="m4 4 5 5m7-5-5 5M4 16l5-5m7 5-5-5" />
      <circle className="dot" cx="10" cy="10" r="2.4" />
    </>
  ),
  stitch: (
    <>
      <path d="M3 6h14M3 14h14" />
      <path className="soft" d="M5 6v8m5-8v8m5-8v8" />
    </>
  ),
  connect: (
    <>
      <path className="soft" d="M3 4h14v12H3z" />
      <path d="M3 4l14 12" />
      <circle className="dot" cx="3.500" cy="4.500" r="1.700" />
      <circle className="dot" cx="16.500" cy="15.500" r="1.700" />
    </>
  ),
  collapse: (
    <>
      <path className="soft" d="M4 5v10m12-10v10" />
      <path d="M10 5v10M5 10h3m-1.300-1.500L8.200 10l-1.500 1.500M15 10h-3m1.300-1.500L11.800 10l1.500 1.500" />
    </>
  ),
  cut: (
    <>
      <path className="soft" d="M3 4h14v12H3zM10 4v12" />
      <path d="M2 13 18 7" />
    </>
  ),
  'cut-faces': (
    <>
      <path className="soft" d="M3 4h14v12H3zM7.700 4v12M12.300 4v12" />
      <path d="M3 10h14" />
    </>
  ),
  spin: (
    <>
      <path className="soft" d="M10 3v14" />
      <path d="M4 14 16 6M13 4.500 16 6l-1.300 3" />
    </>
  ),
  split: (
    <>
      <path d="M3 10h14" />
      <circle className="dot" cx="10" cy="10" r="2" />
      <path className="soft" d="M10 3v14" />
    </>
  ),
  poke: (
    <>
      <path d="M3 4h14v12H3z" />
      <path className="soft" d="m3 4 14 12M17 4 3 16" />
      <circle className="dot" cx="10" cy="10" r="1.700" />
    </>
  ),
  'pair-triangles': (
    <>
      <path d="M4 4h12v12H4z" />
      <path className="soft" d="m4 16 12-12" />
    </>
  ),
  'route-on': (
    <>
      <path d="M3 14h5c4 0 4-7 9-7m-2.500-2.500L17 7l-2.500 2.500" />
      <path className="soft" d="M9 14h8" />
    </>
  ),
  mend: (
    <>
      <path className="soft" d="M3 4h14v12H3z" />
      <path d="M10 4v4m0 4v4M7 10l2 2 4-4" />
    </>
  ),
  'meant-to-be': (
    <>
      <path d="m10 3 7 5-2.500 8h-9L3 8z" />
      <path d="m7 10 2 2 4-4" />
    </>
  ),
  extrude: (
    <>
      <path className="soft" d="M3 16V9h6v7z" />
      <path d="M11 13V4h6v9zM3 9l8-5m-2 5 2-1M9 16l8-3" />
    </>
  ),
  inset: (
    <>
      <path className="soft" d="M3 3h14v14H3z" />
      <path d="M7 7h6v6H7zM3 3l4 4m10-4-4 4M3 17l4-4m10 4-4-4" />
    </>
  ),
  bevel: (
    <>
      <path className="soft" d="M4 16V4h12" />
      <path d="M4 16v-5c0-4 3-7 7-7h5" />
    </>
  ),
  subdivide: (
    <>
      <path d="M3 3h14v14H3z" />
      <path className="soft" d="M10 3v14M3 10h14" />
    </>
  ),
  crease: (
    <>
      <path className="soft" d="M3 15c5-8 9-8 14 0" />
      <path d="M3 15 10 5l7 10" />
    </>
  ),
  place: (
    <>
      <path d="M10 3v14M3 10h14" />
      <path d="m8 5 2-2 2 2m-4 10 2 2 2-2M5 8l-2 2 2 2m10-4 2 2-2 2" />
    </>
  ),
  brush: (
    <>
      <path className="soft" d="M3 14c3-6 11-6 14 0" />
      <circle cx="10" cy="9" r="4.500" />
      <circle className="dot" cx="10" cy="9" r="1.300" />
    </>
  ),
  'recover-coarser': (
    <>
      <path className="soft" d="M3 3h14v14H3zM10 3v14M3 10h14" />
      <path d="M3 3h14v14H3z" />
    </>
  ),
  thicken: (
    <>
      <path d="M3 7c4-4 10-4 14 0" />
      <path className="soft" d="M3 13c4-4 10-4 14 0" />
      <path d="M3 7v6m14-6v6" />
    </>
  ),
  bore: (
    <>
      <path className="soft" d="M3 3h14v14H3z" />
      <circle cx="10" cy="10" r="3.500" />
      <path d="M3 3l4.500 4.500M17 3l-4.500 4.500M3 17l4.500-4.500M17 17l-4.500-4.500" />
    </>
  ),
  boolean: (
    <>
      <path d="M3 7h6a5 5 0 0 0 5 5v5H3z" />
      <circle className="soft" cx="13" cy="7" r="4.500" />
    </>
  ),
  groove: <path d="M2 7h5l1.500 6h3L13 7h5" />,
  'holding-borders': (
    <>
      <path d="M4 4h12v12H4z" />
      <path className="soft" d="M2 2h16v16H2zM6 6h8v8H6z" />
    </>
  ),
  copies: (
    <>
      <path d="M2 8h4v4H2z" />
      <path className="soft" d="M8 8h4v4H8zM14 8h4v4h-4z" />
    </>
  ),
  studs: (
    <>
      <path className="soft" d="M2 15c4-5 12-5 16 0" />
      <circle cx="5" cy="10.500" r="1.600" />
      <circle cx="10" cy="9" r="1.600" />
      <circle cx="15" cy="10.500" r="1.600" />
    </>
  ),
  deform: (
    <>
      <path className="soft" d="M4 17V3m4 14V3" />
      <path d="M4 17c0-7 3-11 10-13M8 17c0-5 2-8 8-9.500" />
    </>
  ),
};
