import * as z from 'zod/mini';
import { addVertex, type PolyMesh } from '../mesh';
import { TopologyError } from '../errors';

export const VertexId = z.int().check(z.minimum(0));
export const EdgeId = z.int().check(z.minimum(0));
export const Point = z.tuple([z.number(), z.number(), z.number()]);

/** Where a corner goes: onto a vertex that is there, or to a new point in file units. */
export const Corner = z.union([z.object({ vertex: VertexId }), z.object({ point: Point })]);
export type Corner = z.infer<typeof Corner>;

/** The vertex of a corner, made when it is a new point. Throws NOTHING_PICKED for a vertex that is gone. */
export function vertexOf(mesh: PolyMesh, corner: Corner): number {
  if ('point' in corner) return addVertex(mesh, corner.point);
  return liveVertex(mesh, corner.vertex);
}

export function liveVertex(mesh: PolyMesh, v: number): number {
  if (!mesh.hasVertex(v))
    throw new TopologyError('NOTHING_PICKED', 'A picked point is no longer there; pick it again.', { vertices: [v] });
  return v;
}

/** How a parameter is asked for on a card. */
export type Field = (
  | { kind: 'number'; label: string; unit: Unit; min: number; max: number; step: number; hint?: string }
  | { kind: 'length'; label: string; hint?: string }
  | { kind: 'choice'; label: string; options: readonly (readonly [string, string])[]; hint?: string }
  | { kind: 'switch'; label: string; hint?: string }
  | { kind: 'curve'; label: string; hint?: string }
) & { when?: Condition };
/** Another parameter, and the values of it with which this one matters. */
export interface Condition {
  field: string;
  is: readonly (string | boolean)[];
}
export type Unit = 'count' | 'share' | 'degrees' | 'plain';

/** The fields of parameters that a person sets; those without one come from a gesture. */
export const FIELDS = z.registry<Field>();

interface Range {
  min: number;
  max: number;
  start: number;
  step?: number;
  hint?: string;
}
/** A whole number. */
export const count = (label: string, { min, max, start, hint }: Range) =>
  z._default(z.int().check(z.minimum(min), z.maximum(max)), start).register(FIELDS, { kind: 'number', label, unit: 'count', min, max, step: 1, hint }); // prettier-ignore
/** A share of something, as a fraction. */
export const share = (label: string, { min, max, start, step = 0.01, hint }: Range) =>
  z._default(z.number().check(z.minimum(min), z.maximum(max)), start).register(FIELDS, { kind: 'number', label, unit: 'share', min, max, step, hint }); // prettier-ignore
export const degrees = (label: string, { min, max, start, step = 1, hint }: Range) =>
  z._default(z.number().check(z.minimum(min), z.maximum(max)), start).register(FIELDS, { kind: 'number', label, unit: 'degrees', min, max, step, hint }); // prettier-ignore
export const plain = (label: string, { min, max, start, step = 0.1, hint }: Range) =>
  z._default(z.number().check(z.minimum(min), z.maximum(max)), start).register(FIELDS, { kind: 'number', label, unit: 'plain', min, max, step, hint }); // prettier-ignore
/** File units; null: the operator proposes one from what is picked, and reports it. */
export const proposedLength = (label: string, hint?: string) =>
  z._default(z.nullable(z.number()), null).register(FIELDS, { kind: 'length', label, hint });
export const choice = <const T extends readonly [string, ...string[]]>(
  label: string,
  options: { readonly [K in keyof T]: readonly [T[K], string] },
  start: T[number],
  hint?: string,
) =>
  z
    ._default(z.enum(options.map(([value]) => value as string)), start)
    .register(FIELDS, { kind: 'choice', label, options, hint }) as unknown as z.ZodMiniDefault<z.ZodMiniType<T[number], T[number]>>; // prettier-ignore
export const toggle = (label: string, start: boolean, hint?: string) =>
  z._default(z.boolean(), start).register(FIELDS, { kind: 'switch', label, hint });
/** A drawn curve, by its points; null: none is chosen. */
export const Curve = z.object({
  points: z.array(Point).check(z.minLength(2), z.maxLength(20_000)),
  closed: z.boolean(),
});
export type Curve = z.infer<typeof Curve>;
export const curve = (label: string, hint?: string) =>
  z._default(z.nullable(Curve), null).register(FIELDS, { kind: 'curve', label, hint });
/** The same parameter, asked for only while another has one of these values. */
export function shownWhen<S extends z.ZodMiniType>(schema: S, field: string, ...is: (string | boolean)[]): S {
  const known = FIELDS.get(schema);
  if (known) FIELDS.add(schema, { ...known, when: { field, is } });
  return schema;
}
