import * as z from 'zod/mini';
import { Summary } from './document';
import { Hash, Id, Name } from './ids';

export const AssetCard = z.object({
  id: Id,
  projectId: Id,
  name: Name,
  revision: z.int(),
  sculpt: z.nullable(Hash),
  /** the sculpt that a newer one took the place of */
  sculptBefore: z.nullable(Hash),
  summary: Summary,
  /** ISO 8601 */
  savedAt: z.string(),
});
export type AssetCard = z.infer<typeof AssetCard>;

export const ProjectCard = z.object({ id: Id, name: Name, assets: z.array(AssetCard) });
export type ProjectCard = z.infer<typeof ProjectCard>;
export const LibraryResponse = z.object({ projects: z.array(ProjectCard) });

export const NewProject = z.object({ name: Name });
export const Rename = z.object({ name: Name });
/** A file as it came, stored. */
const Original = z.object({ hash: Hash, fileName: z.string().check(z.maxLength(255)) });
/** An asset is made from blobs that were uploaded before. */
export const NewAsset = z.object({
  projectId: Id,
  name: Name,
  sculpt: z.nullable(Hash),
  original: z.nullable(Original),
  document: Hash,
});
export type NewAsset = z.infer<typeof NewAsset>;
/** A newer sculpt in the place of an asset's, or the one before again. */
export const NewerSculpt = z.object({ sculpt: Hash, original: z.nullable(Original) });
export type NewerSculpt = z.infer<typeof NewerSculpt>;

export const BlobReceipt = z.object({ hash: Hash, size: z.int() });
export type BlobReceipt = z.infer<typeof BlobReceipt>;
export const SaveReceipt = z.object({ revision: z.int(), hash: Hash, savedAt: z.string() });
export type SaveReceipt = z.infer<typeof SaveReceipt>;

export const VersionCard = z.object({
  id: Id,
  name: Name,
  revision: z.int(),
  document: Hash,
  summary: Summary,
  createdAt: z.string(),
});
export type VersionCard = z.infer<typeof VersionCard>;
export const VersionsResponse = z.object({ versions: z.array(VersionCard) });
/** A version is the document at a revision, or a document that was uploaded before. */
export const NewVersion = z.object({ name: Name, document: z.optional(Hash) });

/** Whether this server wants an access code, and whether this browser has given it. */
export const AccessState = z.object({ needed: z.boolean(), given: z.boolean() });
export type AccessState = z.infer<typeof AccessState>;
export const AccessCode = z.object({ code: z.string().check(z.maxLength(200)) });

/** RFC 9457, with our code. */
export const Problem = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  code: z.string(),
  revision: z.optional(z.int()),
});
export type Problem = z.infer<typeof Problem>;

export const LIMITS = {
  /** bytes */
  upload: 1024 ** 3,
  /** bytes of a project's archive */
  archive: 4 * 1024 ** 3,
  /** bytes, compressed */
  document: 256 * 1024 ** 2,
} as const;
