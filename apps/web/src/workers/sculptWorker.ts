import { expose, transfer } from 'comlink';
import dracoWasmUrl from 'draco3dgltf/draco_decoder_gltf.wasm?url';
import { HalfLoopError } from '@half-loop/core/errors';
import { readMesh } from '@half-loop/core/formats';
import { surfaceCounts, type SurfaceCounts } from '@half-loop/core/inspect';
import { seededRng } from '@half-loop/core/math';
import { frame, rasterize } from '@half-loop/core/raster';
import {
  carriedLabels,
  decodeSculpt,
  encodeSculpt,
  makeStandIn,
  measureSymmetry,
  sculptFromSoup,
  SculptSurface,
  writeLabels,
  type DrawnTriangles,
  type RegionLabels,
  type SurfaceData,
  type TriangleData,
  type SymmetryProposal,
} from '@half-loop/core/surface';
import { triangleStarts } from '@half-loop/core/mesh';

export interface ImportReport extends SurfaceCounts {
  triangles: number;
  points: number;
  polygons: number;
  welded: number;
  loose: number;
  dropped: number;
  /** best first */
  symmetry: SymmetryProposal[];
}
export interface Imported {
  report: ImportReport;
  /** the sculpt's stored form */
  canonical: Uint8Array;
  /** a picture of it, rgba */
  picture: { width: number; height: number; data: Uint8Array };
}

type OnStage = (stage: string, done: number) => void;

/** Errors cross as plain data; the client makes them HalfLoopErrors again. */
export type Answer<T> = { ok: T } | { error: { code: string; message: string } };

/** Of a sculpt that is read, pixels. */
const PICTURE = { width: 360, height: 260 };

const api = {
  /** Fetches a stored sculpt and builds its surface; the buffers are handed over. `onStage` as below. */
  async load(url: string, onStage: OnStage): Promise<SurfaceData> {
    const said = inSteps(onStage);
    const bytes = await fetched(url, (done) => said('Fetching the sculpt', 0.6 * done));
    onStage('Checking it', 0.6);
    const data = decodeSculpt(bytes);
    onStage('Preparing it for snapping', 0.65);
    const surface = SculptSurface.build(data, (done) => said('Preparing it for snapping', 0.65 + 0.35 * done));
    return handOver(surface.toData());
  },

  /** Fewer triangles to draw a big sculpt with. */
  async standIn(full: TriangleData): Promise<DrawnTriangles> {
    const drawn = await makeStandIn(full);
    return transfer(
      drawn,
      [drawn.positions, drawn.normals, drawn.indices, drawn.vertexOf].map((a) => a.buffer as ArrayBuffer),
    );
  },

  /** The planes across which a surface matches itself, best first. */
  symmetry(data: SurfaceData): SymmetryProposal[] {
    return measureSymmetry(SculptSurface.fromData(data), seededRng(1));
  },

  /** The regions painted on a sculpt, as text, for the stored form of another one. */
  carryRegions(old: TriangleData, labels: RegionLabels, canonical: Uint8Array): string {
    return writeLabels(carriedLabels(SculptSurface.build(old), labels, decodeSculpt(canonical).positions));
  },

  /** Reads a dropped file, with the files it may name `beside` it: everything the import report shows. `onStage` gets words and progress in [0, 1]. */
  async import(file: File, beside: File[], onStage: OnStage): Promise<Answer<Imported>> {
    try {
      onStage('Reading the file', 0.02);
      const bytes = new Uint8Array(await file.arrayBuffer());
      onStage('Understanding it', 0.1);
      const { soup } = await readMesh(bytes, file.name, {
        beside: async (name) => {
          const found = beside.find((f) => f.name === name.split('/').at(-1));
          return found ? new Uint8Array(await found.arrayBuffer()) : null;
        },
        dracoWasm: async () => (await fetch(dracoWasmUrl)).arrayBuffer(),
      });
      onStage('Welding equal points', 0.4);
      const { positions, indices, welded, loose, dropped } = sculptFromSoup(soup);
      onStage('Counting pieces and borders', 0.5);
      const info = surfaceCounts({ positions, faceStarts: triangleStarts(indices.length / 3), corners: indices });
      const canonical = encodeSculpt({ positions, indices });
      onStage('Preparing it for snapping', 0.7);
      const surface = SculptSurface.build({ positions, indices });
      onStage('Measuring its symmetry', 0.85);
      const report: ImportReport = {
        ...info,
        triangles: indices.length / 3,
        points: positions.length / 3,
        polygons: soup.faceStarts.length - 1,
        welded,
        loose,
        dropped,
        symmetry: measureSymmetry(surface, seededRng(1)),
      };
      onStage('Drawing a picture', 0.95);
      const picture = rasterize({
        ...PICTURE,
        camera: frame([surface.positions], [0.75, 0.3, 0.8], PICTURE.width / PICTURE.height, 28),
        solids: [
          { positions: surface.positions, indices: surface.indices, normals: surface.normals, colour: [206, 184, 156] },
        ],
        background: { top: [214, 218, 217], bottom: [176, 183, 184] },
      });
      return transfer({ ok: { report, canonical, picture } }, [
        canonical.buffer as ArrayBuffer,
        picture.data.buffer as ArrayBuffer,
      ]);
    } catch (error) {
      const code = error instanceof HalfLoopError ? error.code : 'INTERNAL';
      return { error: { code, message: error instanceof Error ? error.message : String(error) } };
    }
  },
};

/** Passes on only what a person would see: each message to the page costs it more than the step that it reports. */
function inSteps(onStage: OnStage, step = 0.12): OnStage {
  let last = -1;
  return (stage, done) => {
    if (done - last < step) return;
    last = done;
    onStage(stage, done);
  };
}

/** The body of an answer, read as it comes. Throws when the server refuses or breaks off. */
async function fetched(url: string, onProgress: (done: number) => void): Promise<Uint8Array> {
  const res = await fetch(url);
  const length = Number(res.headers.get('Content-Length'));
  if (!res.ok || !res.body) throw new Error('The sculpt could not be fetched from the server.');
  const bytes = new Uint8Array(length);
  let at = 0;
  const reader = res.body.getReader();
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    bytes.set(part.value, at);
    at += part.value.length;
    onProgress(at / length);
  }
  if (at !== length) throw new Error('The sculpt came only in part from the server. Open the asset again.');
  return bytes;
}

function handOver(data: SurfaceData): SurfaceData {
  const roots = data.bvh.roots as ArrayBuffer[];
  return transfer(data, [
    data.positions.buffer as ArrayBuffer,
    data.indices.buffer as ArrayBuffer,
    data.normals.buffer as ArrayBuffer,
    ...roots,
  ]);
}

export type SculptWorker = typeof api;
expose(api);
