import { boxOf } from '@half-loop/core/math';
import type { TriangleData } from '@half-loop/core/surface';
import { surfaceNets, type Field, type NetOptions } from '@half-loop/studies';
import * as creatures from './creatures';
import * as things from './things';

/** Half of the box that every form lies in. */
const REACH = 3;
/** Side of a cell of the grid on which a form's box and area are found. */
const ROUGH = 0.06;
const TRIANGLES = 120_000;
/** How far the fields may overstate a distance. */
const SLACK = 2;

const FIELDS: Record<string, Field> = { ...creatures, ...things };

/** Names of all forms. */
export const FORMS: readonly string[] = Object.keys(FIELDS);

/** A form by name, as about 120,000 triangles; undefined if there is none of that name. Cost: some seconds. */
export function formOf(name: string): TriangleData | undefined {
  if (!Object.hasOwn(FIELDS, name)) return undefined;
  const meshed = (box: NetOptions): TriangleData => surfaceNets(FIELDS[name], { ...box, slack: SLACK });
  const rough = meshed({ min: [-REACH, -REACH, -REACH], max: [REACH, REACH, REACH], cell: ROUGH });
  const { min, max } = boxOf(rough.positions);
  const grown = (to: readonly number[], by: number): [number, number, number] => [to[0] + by, to[1] + by, to[2] + by];
  const cell = ROUGH * Math.sqrt(rough.indices.length / 3 / TRIANGLES);
  return meshed({ min: grown(min, -ROUGH), max: grown(max, ROUGH), cell });
}
