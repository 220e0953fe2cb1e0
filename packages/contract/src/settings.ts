import * as z from 'zod/mini';
import { PURPOSES } from '@half-loop/core/inspect';
import { AXES, SIGNED_AXES } from '@half-loop/core/math';

/** Length units a file may be in, and their metres. */
export const UNITS = { mm: 0.001, cm: 0.01, m: 1, in: 0.0254 } as const;
export type Unit = keyof typeof UNITS;
export const UNIT_NAMES = ['mm', 'cm', 'm', 'in'] as const satisfies readonly Unit[];

export const STAGES = ['gather', 'lay', 'flow', 'trim', 'prove', 'ship'] as const;
export type Stage = (typeof STAGES)[number];
export const StageSchema = z.enum(STAGES);

const Ids = z.array(z.int().check(z.minimum(0)));
export const SavedPick = z.object({
  name: z.string().check(z.minLength(1), z.maxLength(80)),
  /** the piece whose elements these are; the first one when it is not named */
  piece: z.optional(z.string()),
  vertices: Ids,
  edges: Ids,
  faces: Ids,
});
export type SavedPick = z.infer<typeof SavedPick>;

/** A stroke that the flow follows and that points can stick to, file space. */
export const Guide = z.object({
  name: z.string().check(z.minLength(1), z.maxLength(80)),
  points: z.array(z.tuple([z.number(), z.number(), z.number()])).check(z.minLength(2), z.maxLength(20_000)),
  closed: z.boolean(),
});
export type Guide = z.infer<typeof Guide>;

/** A stroke along which automatic retopology makes more quads, or fewer; file space. */
export const DensityStroke = z.object({
  points: z.array(z.tuple([z.number(), z.number(), z.number()])).check(z.minLength(1), z.maxLength(2000)),
  radius: z.number().check(z.positive()),
  /** quads in the place of one, where the stroke counts in full */
  times: z.number().check(z.minimum(1 / 16), z.maximum(16)),
});
export type DensityStroke = z.infer<typeof DensityStroke>;

/** A named, tinted set of faces, and a part of the sculpt; faces and the sculpt's labels hold its number. */
export const Region = z.object({
  id: z.int().check(z.minimum(1)),
  name: z.string().check(z.minLength(1), z.maxLength(80)),
  tint: z.string().check(z.regex(/^#[0-9a-f]{6}$/)),
});
export type Region = z.infer<typeof Region>;

export const AssetSettings = z.object({
  /** what one unit of the file means */
  unit: z.enum(UNIT_NAMES),
  up: z.enum(SIGNED_AXES),
  front: z.enum(SIGNED_AXES),
  onFloor: z.boolean(),
  /** plane in file space; the half with the low-poly is stored, the other derived */
  symmetry: z.object({ on: z.boolean(), axis: z.enum(AXES), offset: z.number() }),
  sculpt: z.object({
    tint: z.string().check(z.regex(/^#[0-9a-f]{6}$/)),
    /** 0.05 … 1 */
    opacity: z.number().check(z.minimum(0.05), z.maximum(1)),
    visible: z.boolean(),
  }),
  purpose: z.enum(PURPOSES),
  /** height on screen, pixels */
  seenHeight: z.number().check(z.minimum(8), z.maximum(8192)),
  /** faces */
  budget: z.int().check(z.minimum(1), z.maximum(10_000_000)),
  /** selections kept by name; elements that are gone by now are left out when one is taken up again */
  picks: z._default(z.array(SavedPick).check(z.maxLength(200)), []),
  guides: z._default(z.array(Guide).check(z.maxLength(500)), []),
  densities: z._default(z.array(DensityStroke).check(z.maxLength(500)), []),
  /** the edge length that is aimed at while laying, file units */
  quadLength: z._default(z.nullable(z.number().check(z.positive())), null),
  regions: z._default(z.array(Region).check(z.maxLength(500)), []),
  /** the region of each vertex of the sculpt, as `writeLabels` writes it; empty where nothing is painted */
  sculptRegions: z._default(z.string().check(z.maxLength(20_000_000)), ''),
});
export type AssetSettings = z.infer<typeof AssetSettings>;

export const DEFAULT_SETTINGS: AssetSettings = {
  unit: 'cm',
  up: '+y',
  front: '+z',
  onFloor: true,
  symmetry: { on: false, axis: 'x', offset: 0 },
  sculpt: { tint: '#c4ae93', opacity: 1, visible: true },
  purpose: 'bends',
  seenHeight: 400,
  budget: 2000,
  picks: [],
  guides: [],
  densities: [],
  quadLength: null,
  regions: [],
  sculptRegions: '',
};
