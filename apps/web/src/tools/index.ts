import { DrawOutTool } from './DrawOutTool';
import { QuadTool } from './QuadTool';
import { SelectTool } from './SelectTool';
import type { Tool, ToolHost } from './Tool';

export type { Tool, ToolHost } from './Tool';
export { InputRouter } from './InputRouter';

export interface ToolCard {
  name: 'quad' | 'draw-out' | 'select';
  title: string;
  key: string;
  make(host: ToolHost): Tool;
}

/** The tools that work by the pointer. */
export const TOOLS: readonly ToolCard[] = [
  { name: 'quad', title: 'Quad', key: 'Q', make: (host) => new QuadTool(host) },
  { name: 'draw-out', title: 'Draw out', key: 'D', make: (host) => new DrawOutTool(host) },
  { name: 'select', title: 'Select', key: 'E', make: (host) => new SelectTool(host) },
];
export type ToolName = ToolCard['name'];
