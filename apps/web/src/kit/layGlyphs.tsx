import type { ReactNode } from 'react';

/** Glyphs of Lay's cards: before dashed, after in full. */
export const LAY_GLYPHS: Record<string, ReactNode> = {
  'lay-all': (
    <>
      <path
        className="soft"
        d="M10 2.500c5 0 7.500 3.500 7.500 7.500S15 17.500 10 17.500 2.500 14 2.500 10 5 2.500 10 2.500"
      />
      <path d="M3 7.500c4-1.500 10-1.500 14 0M3 12.500c4 1.500 10 1.500 14 0M7.500 3c-1.500 4-1.500 10 0 14M12.500 3c1.500 4 1.500 10 0 14" />
    </>
  ),
  relay: (
    <>
      <path className="soft" d="M3 3h14v14H3z" />
      <path d="M6 6h8v8H6zM6 10c3-1.500 5-1.500 8 0M10 6c-1.500 3-1.500 5 0 8" />
    </>
  ),
  row: (
    <>
      <path className="soft" d="M3 16C6 10 11 7 17 6" />
      <path d="M2 13.500 5 17M4.500 9l4 3.500M9 6l2.500 4.500M15 3.500l1 5M2 13.500C4 9 9 5 15 3.500M5 17c2-4 6-6.500 11-8.500" />
    </>
  ),
  fill: (
    <>
      <path className="soft" d="M3 4h14v12H3z" />
      <path d="M10 4v5l-7 3M10 9l7 3M6 8l4 1" />
    </>
  ),
  'ring-opening': (
    <>
      <circle className="soft" cx="10" cy="10" r="2.6" />
      <circle cx="10" cy="10" r="7" />
      <path d="M10 3v4.400M10 12.600V17M3 10h4.400M12.600 10H17M5 5l3.200 3.200M11.800 11.800 15 15M15 5l-3.200 3.200M8.200 11.800 5 15" />
    </>
  ),
  thread: (
    <>
      <path d="M3 5c4-2 10 1 14-1M3 12c4-2 10 1 14-1M5 3c1 5-1 10 0 14M13 3c1 5-1 10 0 14" />
      <circle className="dot" cx="5" cy="4.800" r="1.3" />
      <circle className="dot" cx="13" cy="11.500" r="1.3" />
    </>
  ),
  region: (
    <>
      <path className="soft" d="M3 3h14v14H3zM3 10h14M10 3v14" />
      <path strokeDasharray="1.500 2" d="M3 3h7v7h7v7H3z" />
    </>
  ),
  reproject: (
    <>
      <path className="soft" d="M2.500 8c4-4 11-4 15 0" />
      <path d="M2.500 14c4-4 11-4 15 0M5 7.500v3.200M10 5.500v4M15 7.500v3.200" />
    </>
  ),
  pin: (
    <>
      <path className="soft" d="M3 5c4 3 10 3 14 0M3 15c4-3 10-3 14 0" />
      <path d="M7 9h6v6H7zM8.500 9V7a1.500 1.500 0 0 1 3 0v2" />
    </>
  ),
  'bring-back': (
    <>
      <path className="soft" d="M3 14c5-6 9-6 14 0" />
      <path d="M10 3v5M7.500 6 10 8.500 12.500 6" />
      <circle className="dot" cx="10" cy="9.600" r="1.4" />
    </>
  ),
  cap: (
    <>
      <path className="soft" d="M10 3 16.500 7v6L10 17 3.500 13V7z" />
      <path d="M10 10V3M10 10l6.500 3M10 10l-6.500 3" />
      <circle className="dot" cx="10" cy="10" r="1.4" />
    </>
  ),
  'to-midline': (
    <>
      <path className="soft" d="M10 3v14" />
      <path d="M4 6h4M6.500 4.500 8 6 6.500 7.500M4 14h4M6.500 12.500 8 14l-1.500 1.500" />
      <circle className="dot" cx="10" cy="10" r="1.6" />
    </>
  ),
  'mirror-over': (
    <>
      <path className="soft" d="M10 3v14M12.500 5H17v10h-4.500" />
      <path d="M7.500 5H3v10h4.500M8 10h5.500M12 8.500l1.500 1.500-1.500 1.500" />
    </>
  ),
  bridge: (
    <>
      <path className="soft" d="M4 3v14M16 3v14" />
      <path d="M4 5h12M4 10h12M4 15h12M10 5v10" />
    </>
  ),
  density: (
    <>
      <path className="soft" d="M3 3h14v14H3zM10 3v14M3 10h14" />
      <path d="M10 10h7v7h-7zM13.500 10v7M10 13.500h7" />
    </>
  ),
  guide: (
    <>
      <path d="M3 15C6 4 12 16 17 5" />
      <path className="soft" d="m8 8 2 2-3 1M13 9l2 2-3 1" />
    </>
  ),
};
