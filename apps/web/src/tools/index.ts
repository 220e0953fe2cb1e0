import { BrushTool } from './BrushTool';
import { CutTool } from './CutTool';
import { DrawOutTool } from './DrawOutTool';
import { LassoTool } from './LassoTool';
import { LoopsTool } from './LoopsTool';
import { PlaceTool } from './PlaceTool';
import { QuadTool } from './QuadTool';
import { RouteTool } from './RouteTool';
import { SelectTool } from './SelectTool';
import { SlideTool } from './SlideTool';
import type { Tool, ToolHost } from './Tool';

export type { Offer, Tool, ToolHost } from './Tool';
export type { PlaceSettings } from './PlaceTool';
export { InputRouter } from './InputRouter';
export { LIST_OF, mergedSelection, oneElement } from './selecting';

export interface ToolCard {
  name: 'quad' | 'draw-out' | 'select' | 'lasso' | 'insert-loops' | 'slide' | 'cut' | 'route-on' | 'place' | 'brush';
  title: string;
  key: string;
  make(host: ToolHost): Tool;
}

/** The tools that work by the pointer. */
export const TOOLS: readonly ToolCard[] = [
  { name: 'quad', title: 'Quad', key: 'Q', make: (host) => new QuadTool(host) },
  { name: 'draw-out', title: 'Draw out', key: 'D', make: (host) => new DrawOutTool(host) },
  { name: 'select', title: 'Select', key: 'E', make: (host) => new SelectTool(host) },
  { name: 'lasso', title: 'Lasso', key: 'L', make: (host) => new LassoTool(host) },
  { name: 'insert-loops', title: 'Insert loops', key: 'I', make: (host) => new LoopsTool(host) },
  { name: 'slide', title: 'Slide', key: 'S', make: (host) => new SlideTool(host) },
  { name: 'cut', title: 'Cut', key: 'U', make: (host) => new CutTool(host) },
  { name: 'route-on', title: 'Route on', key: 'R', make: (host) => new RouteTool(host) },
  { name: 'place', title: 'Place', key: 'P', make: (host) => new PlaceTool(host) },
  { name: 'brush', title: 'Brush', key: 'B', make: (host) => new BrushTool(host) },
];
export type ToolName = ToolCard['name'];
