import * as z from 'zod/mini';
import { AXES } from '@half-loop/core/math';
import { Hash, Id, Name } from './ids';
import { DensityStroke } from './settings';

const share = z.number().check(z.minimum(0), z.maximum(1));
const Point = z.tuple([z.number(), z.number(), z.number()]);

/** What automatic retopology is asked for. */
export const LayAllAsk = z.object({
  /** a packed low-poly that was uploaded before; null: the asset's sculpt */
  piece: z.nullable(Hash),
  /** wanted quads, of the whole when there is a plane */
  faces: z.int().check(z.minimum(6), z.maximum(200_000)),
  /** 0: even sizes, 1: sizes by thickness and curvature */
  evenness: share,
  /** 0: the smoothest flow, 1: along the form's bends */
  followForm: share,
  /** edges sharper than so many degrees are kept; null: none but borders */
  keepEdges: z.nullable(z.number().check(z.minimum(1), z.maximum(180))),
  dropDust: z.boolean(),
  /** one half is laid up to this plane, file units; null: all */
  plane: z.nullable(z.object({ axis: z.enum(AXES), offset: z.number() })),
  /** lines that chains of edges follow, file units */
  lines: z
    .array(z.object({ points: z.array(Point).check(z.minLength(2), z.maxLength(20_000)), closed: z.boolean() }))
    .check(z.maxLength(500)),
  /** of a piece: the borders of its regions are such lines too */
  regions: z.boolean(),
  /** of a piece: its subdivided shape of so many levels is laid over */
  levels: z._default(z.int().check(z.minimum(0), z.maximum(3)), 0),
  /** rounds of smoothing that the form goes through first */
  smoothing: z._default(z.int().check(z.minimum(0), z.maximum(60)), 0),
  /** of a piece: quads run along its own loops */
  followsLoops: z._default(z.boolean(), false),
  /** where there shall be more quads, or fewer */
  densities: z._default(z.array(DensityStroke).check(z.maxLength(500)), []),
});
export type LayAllAsk = z.infer<typeof LayAllAsk>;

/** A run of automatic retopology: ways to be tried and compared, each a job. */
export const NewRun = z.object({
  kind: z.literal('lay-all'),
  ways: z.array(z.object({ label: Name, ask: LayAllAsk })).check(z.minLength(1), z.maxLength(4)),
});
export type NewRun = z.infer<typeof NewRun>;

export const JOB_STATES = ['waiting', 'running', 'done', 'refused', 'cancelled'] as const;
export type JobState = (typeof JOB_STATES)[number];

/** What was laid and how good it is; the packed low-poly is a blob. */
export const LaidMeasures = z.object({
  hash: Hash,
  faces: z.int(),
  irregular: z.int(),
  interior: z.int(),
  quality: z.object({ least: z.number(), low: z.number(), mean: z.number() }),
  /** how far it and what it was laid on are from each other, both ways, and where most, in the asset's unit; runs of old have none, or not where */
  distance: z.optional(z.object({ typical: z.number(), worst: z.number(), worstAt: z.optional(Point) })),
  /** what was repaired, closed or left out, in words */
  mended: z.array(z.string()),
  /** which way each part was made */
  routes: z.array(z.enum(['grid', 'shell', 'paired'])),
  /** by stage */
  seconds: z.record(z.string(), z.number()),
});
export type LaidMeasures = z.infer<typeof LaidMeasures>;

export const JobCard = z.object({
  id: Id,
  kind: z.literal('lay-all'),
  run: Id,
  label: Name,
  asset: z.object({ id: Id, name: Name }),
  state: z.enum(JOB_STATES),
  /** what is being worked on, and how far all is, in [0, 1] */
  stage: z.string(),
  done: share,
  ask: LayAllAsk,
  /** why it was refused, in one sentence */
  refusal: z.nullable(z.string()),
  result: z.nullable(LaidMeasures),
  /** how many pictures were drawn so far; its picture changes with it */
  looks: z.int(),
  /** ISO 8601 */
  askedAt: z.string(),
  endedAt: z.nullable(z.string()),
});
export type JobCard = z.infer<typeof JobCard>;
export const JobsResponse = z.object({ jobs: z.array(JobCard) });
/** What the event stream tells: a job as it is now, or that it went. */
export const JobEvent = z.union([z.object({ job: JobCard }), z.object({ gone: Id })]);
export type JobEvent = z.infer<typeof JobEvent>;
