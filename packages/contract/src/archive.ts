import * as z from 'zod/mini';
import { Name } from './ids';

const Path = z.string().check(z.regex(/^[a-z0-9][a-z0-9./-]{0,200}$/));

/** project.json of a project's archive: what belongs together, by paths within the archive. */
export const ProjectIndex = z.object({
  format: z.literal('half-loop project'),
  version: z.literal(1),
  name: Name,
  assets: z
    .array(
      z.object({
        name: Name,
        /** JSON, see documentJson.ts */
        document: Path,
        /** the low-poly for other programs; not read back, the document has it */
        lowPoly: z.nullable(Path),
        /** binary PLY, the triangles as they are stored */
        sculpt: z.nullable(Path),
        /** the file the sculpt came in, byte for byte */
        original: z.nullable(z.object({ path: Path, fileName: z.string().check(z.maxLength(255)) })),
        versions: z.array(z.object({ name: Name, createdAt: z.string(), document: Path })).check(z.maxLength(10_000)),
      }),
    )
    .check(z.maxLength(10_000)),
});
export type ProjectIndex = z.infer<typeof ProjectIndex>;
