import { HalfLoopError } from '@half-loop/core/errors';
import { decodeSculpt } from '@half-loop/core/surface';
import { demoAsset } from '@half-loop/studies';
import { drawThumbnail } from './drawThumbnail';
import { packDocument, packSculpt, unpackDocument, unpackSculpt } from './openForms';

export type HeavyTask =
  | { kind: 'checkSculpt'; bytes: Uint8Array }
  | { kind: 'thumbnail'; document: Uint8Array; sculpt: Uint8Array | null }
  | { kind: 'demo'; name: string }
  | { kind: 'packSculpt' | 'packDocument' | 'unpackSculpt' | 'unpackDocument'; bytes: Uint8Array };

export interface HeavyResult {
  bytes?: Uint8Array;
  second?: Uint8Array;
  error?: { code: string; message: string };
}

/** Entry of the worker threads. Errors cross as plain data. */
export default async function run(task: HeavyTask): Promise<HeavyResult> {
  try {
    switch (task.kind) {
      case 'checkSculpt':
        decodeSculpt(task.bytes);
        return {};
      case 'thumbnail':
        return { bytes: drawThumbnail(task.document, task.sculpt) };
      case 'demo': {
        const { sculpt, document } = demoAsset(task.name);
        return { bytes: document, ...(sculpt ? { second: sculpt } : {}) };
      }
      case 'packSculpt':
        return { bytes: await packSculpt(task.bytes) };
      case 'packDocument':
        return packDocument(task.bytes);
      case 'unpackSculpt':
        return { bytes: await unpackSculpt(task.bytes) };
      case 'unpackDocument':
        return { bytes: unpackDocument(task.bytes) };
    }
  } catch (error) {
    const code = error instanceof HalfLoopError ? error.code : 'INTERNAL';
    return { error: { code, message: error instanceof Error ? error.message : String(error) } };
  }
}
