import { BrushTool } from './BrushTool';
import { CutTool } from './CutTool';
import { DeformTool } from './DeformTool';
import { DensityTool } from './DensityTool';
import { DrawOutTool } from './DrawOutTool';
import { FillTool } from './FillTool';
import { GuideTool } from './GuideTool';
import { LassoTool } from './LassoTool';
import { LatticeTool } from './LatticeTool';
import { LoopsTool } from './LoopsTool';
import { PlaceTool } from './PlaceTool';
import { QuadTool } from './QuadTool';
import { RegionTool } from './RegionTool';
import { RingTool } from './RingTool';
import { RouteTool } from './RouteTool';
import { RowTool } from './RowTool';
import { SelectTool } from './SelectTool';
import { SlideTool } from './SlideTool';
import { ThreadTool } from './ThreadTool';
import type { Tool, ToolHost } from './Tool';

export type { Offer, Tool, ToolHost } from './Tool';
export type { PlaceSettings } from './PlaceTool';
export { PLAIN_ROW, type RowShape } from './rowShape';
export type { RegionDoes, RegionSettings } from './RegionTool';
export { InputRouter } from './InputRouter';
export { NEARLY } from './ThreadTool';
export { seenSide } from './cellMarks';
export { LIST_OF, mergedSelection, oneElement } from './selecting';

export interface ToolCard {
  name:
    | 'quad'
    | 'row'
    | 'thread'
    | 'fill'
    | 'ring-opening'
    | 'draw-out'
    | 'select'
    | 'lasso'
    | 'insert-loops'
    | 'slide'
    | 'cut'
    | 'route-on'
    | 'place'
    | 'brush'
    | 'guide'
    | 'density'
    | 'region'
    | 'deform'
    | 'lattice';
  title: string;
  key: string;
  make(host: ToolHost): Tool;
}

/** The tools that work by the pointer. */
export const TOOLS: readonly ToolCard[] = [
  { name: 'quad', title: 'Quad', key: 'Q', make: (host) => new QuadTool(host) },
  { name: 'row', title: 'Row', key: 'O', make: (host) => new RowTool(host) },
  { name: 'thread', title: 'Thread', key: 'H', make: (host) => new ThreadTool(host) },
  { name: 'fill', title: 'Fill', key: 'F', make: (host) => new FillTool(host) },
  { name: 'ring-opening', title: 'Ring an opening', key: 'X', make: (host) => new RingTool(host) },
  { name: 'draw-out', title: 'Draw out', key: 'D', make: (host) => new DrawOutTool(host) },
  { name: 'select', title: 'Select', key: 'E', make: (host) => new SelectTool(host) },
  { name: 'lasso', title: 'Lasso', key: 'L', make: (host) => new LassoTool(host) },
  { name: 'insert-loops', title: 'Insert loops', key: 'I', make: (host) => new LoopsTool(host) },
  { name: 'slide', title: 'Slide', key: 'S', make: (host) => new SlideTool(host) },
  { name: 'cut', title: 'Cut', key: 'U', make: (host) => new CutTool(host) },
  { name: 'route-on', title: 'Route on', key: 'R', make: (host) => new RouteTool(host) },
  { name: 'place', title: 'Place', key: 'P', make: (host) => new PlaceTool(host) },
  { name: 'brush', title: 'Brush', key: 'B', make: (host) => new BrushTool(host) },
  { name: 'guide', title: 'Guide', key: 'G', make: (host) => new GuideTool(host) },
  { name: 'density', title: 'Paint density', key: 'C', make: (host) => new DensityTool(host) },
  { name: 'region', title: 'Paint a region', key: 'V', make: (host) => new RegionTool(host) },
  { name: 'deform', title: 'Bend, twist, taper', key: 'W', make: (host) => new DeformTool(host) },
  { name: 'lattice', title: 'Lattice', key: 'A', make: (host) => new LatticeTool(host) },
];
export type ToolName = ToolCard['name'];
