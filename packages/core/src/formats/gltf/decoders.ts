import { badFile } from '../../errors';
import type { ReadOptions } from '../format';

/** Decoders by the names under which the glTF library wants them; only those that the file needs are loaded. */
export async function decodersFor(
  used: readonly string[],
  { dracoWasm }: ReadOptions,
): Promise<Record<string, unknown>> {
  const found: Record<string, unknown> = {};
  if (used.includes('KHR_draco_mesh_compression')) {
    if (!dracoWasm) throw badFile('The glTF is compressed by Draco, and this program was built without its decoder');
    const [wasmBinary, { default: createModule }] = await Promise.all([
      dracoWasm(),
      import('draco3dgltf/draco_decoder_gltf_nodejs.js'),
    ]);
    found['draco3d.decoder'] = await createModule({ wasmBinary });
  }
  if (used.includes('EXT_meshopt_compression')) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder');
    await MeshoptDecoder.ready;
    found['meshopt.decoder'] = MeshoptDecoder;
  }
  return found;
}
