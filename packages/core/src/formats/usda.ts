import { faceCountOf, type PolygonSoup } from '../mesh';
import type { WriteOptions } from './format';
import { srgbToLinear } from './colour';

const HARD = 10;

/**
 * USD text (usda): polygons with their subdivision scheme, normals and texture coordinates a corner, colours, groups as
 * subsets of faces, hard edges as creases of sharpness 10 (infinitely sharp). Numbers round-trip. Linear.
 */
export function writeUsda(soup: PolygonSoup, { name, metersPerUnit = 0.01 }: WriteOptions): Uint8Array {
  const { positions: p, corners, faceStarts, attributes = {} } = soup;
  const { uvs, normals, pointColours, faceColours, groups, hardEdges } = attributes;
  const id = identifier(name);
  const counts = Array.from({ length: faceCountOf(soup) }, (_, f) => faceStarts[f + 1] - faceStarts[f]);
  const body = [
    `uniform token subdivisionScheme = "none"`,
    `int[] faceVertexCounts = [${counts.join(', ')}]`,
    `int[] faceVertexIndices = [${corners.join(', ')}]`,
    `point3f[] points = [${tuples(p, 3)}]`,
  ];
  if (normals) body.push(`normal3f[] normals = [${tuples(normals, 3)}] (\n            interpolation = "faceVarying"\n        )`); // prettier-ignore
  if (uvs) body.push(`texCoord2f[] primvars:st = [${tuples(uvs.map((x) => (Number.isFinite(x) ? x : 0)), 2)}] (\n            interpolation = "faceVarying"\n        )`); // prettier-ignore
  const colours = pointColours ?? faceColours;
  if (colours) body.push(`color3f[] primvars:displayColor = [${tuples(linearRgb(colours), 3)}] (\n            interpolation = "${pointColours ? 'vertex' : 'uniform'}"\n        )`); // prettier-ignore
  if (hardEdges?.length) {
    const pairs = hardEdges.length / 2;
    body.push(
      `int[] creaseIndices = [${hardEdges.join(', ')}]`,
      `int[] creaseLengths = [${new Array(pairs).fill(2).join(', ')}]`,
      `float[] creaseSharpnesses = [${new Array(pairs).fill(HARD).join(', ')}]`,
    );
  }
  const text = `#usda 1.0
(
    defaultPrim = "${id}"
    doc = ${quoted('Half Loop')}
    metersPerUnit = ${metersPerUnit}
    upAxis = "Y"
)

def Mesh "${id}" (
    displayName = ${quoted(name)}
)
{
${body.map((line) => `        ${line}`).join('\n')}
${(groups ? subsets(groups.names, groups.ofFace) : []).join('\n')}
}
`;
  return new TextEncoder().encode(text);
}

function subsets(names: string[], ofFace: Uint32Array): string[] {
  const used = new Set<string>();
  return names.map((name, g) => {
    let id = identifier(name);
    while (used.has(id)) id += '_';
    used.add(id);
    const faces = [...ofFace.keys()].filter((f) => ofFace[f] === g);
    return `
        def GeomSubset "${id}" (
            displayName = ${quoted(name)}
        )
        {
            uniform token elementType = "face"
            uniform token familyName = "materialBind"
            int[] indices = [${faces.join(', ')}]
        }`;
  });
}

function tuples(values: ArrayLike<number>, stride: number): string {
  const parts: string[] = [];
  for (let i = 0; i < values.length; i += stride)
    parts.push(`(${Array.from({ length: stride }, (_, k) => values[i + k]).join(', ')})`);
  return parts.join(', ');
}

function linearRgb(rgba: Float32Array): Float64Array {
  const out = new Float64Array((rgba.length / 4) * 3);
  for (let i = 0; i < rgba.length / 4; i++) for (let k = 0; k < 3; k++) out[3 * i + k] = srgbToLinear(rgba[4 * i + k]);
  return out;
}

/** A user's name as a USD identifier: letters, digits and underscores, not a digit first. */
function identifier(name: string): string {
  const id = name.normalize('NFKD').replace(/\p{M}/gu, '').replace(/[^A-Za-z0-9_]+/g, '_'); // prettier-ignore
  return /^[A-Za-z_]/.test(id) ? id : `_${id || 'low_poly'}`;
}

/** A quoted USD string: quotes, backslashes and control characters escaped. */
const quoted = (text: string): string =>
  `"${text
    .replace(/[\\"]/g, (c) => `\\${c}`)
    .replace(/\n/g, '\\n')
    .replace(/[\p{Cc}\u2028\u2029]/gu, ' ')}"`;
