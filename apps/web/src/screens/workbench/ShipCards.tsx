import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { wrap } from 'comlink';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { UNITS } from '@half-loop/contract';
import type { WriteFormat } from '@half-loop/core/formats';
import { Button, Choice, MainButton, Note, TextBox, Toggle } from '../../kit';
import { api, messageOf, saveVersion, useSession } from '../../session';
import { packPieces } from '../../workers/recipes';
import type { Exported, ExportRequest, ExportWorker, Pivot } from '../../workers/exportWorker';
import { count, timeText } from '../format';
import { useBench } from './Bench';
import { Card } from './Card';

/** Versions: save one with a name; the list has a screen of its own. */
export function VersionCardPanel(): ReactNode {
  const session = useSession();
  const queries = useQueryClient();
  const { id, name: assetName } = session.asset;
  const { data } = useQuery({ queryKey: ['versions', id], queryFn: () => api.versions(id) });
  const versions = data?.versions ?? [];
  const [name, setName] = useState<string | null>(null);
  const proposed = `${assetName.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '-')}-${String(versions.length + 1).padStart(2, '0')}`;
  const save = useMutation({
    mutationFn: () => saveVersion(session, (name ?? proposed).trim()),
    onSuccess: () => {
      setName(null);
      void queries.invalidateQueries({ queryKey: ['versions', id] });
    },
  });
  return (
    <Card
      glyph="version"
      title="Version"
      isOpen
      hint="A version keeps this state under a name. You can look at it and go back to it any time."
    >
      <TextBox label="Name" value={name ?? proposed} onChange={setName} />
      <Button isDisabled={(name ?? proposed).trim() === '' || save.isPending} onPress={() => save.mutate()}>
        Save the version
      </Button>
      {save.error && <p role="alert">{messageOf(save.error)}</p>}
      {save.isSuccess && <Note role="status">Version “{save.data.name}” saved.</Note>}
      {versions.slice(0, 3).map((v) => (
        <Note key={v.id}>
          {v.name}, <span className="num">{count(v.summary.faces)}</span> faces, {timeText(v.createdAt)}
        </Note>
      ))}
      <p style={{ marginTop: 8 }}>
        <Link to={`/a/${id}/versions`}>All versions</Link>
      </p>
    </Card>
  );
}

const FORMATS: readonly (readonly [WriteFormat, string])[] = [
  ['glb', 'GLB'],
  ['obj', 'OBJ'],
  ['ply', 'PLY'],
  ['usda', 'USDA'],
  ['off', 'OFF'],
  ['stl', 'STL'],
];
const PIVOTS: readonly (readonly [Pivot, string])[] = [
  ['centre', 'the centre'],
  ['base', 'the base'],
  ['origin', 'the origin'],
];

/** Writes the file: symmetry made real, upright, pivot at zero. */
export function FileCard(): ReactNode {
  const session = useSession('settings', 'mesh', 'reset', 'pieces', 'recipe');
  const [name, setName] = useState(session.asset.name);
  const [pivot, setPivot] = useState<Pivot>('base');
  const [format, setFormat] = useState<WriteFormat>('glb');
  const [normals, setNormals] = useState(true);
  const write = useWriteFile();
  const { unit } = session.settings;
  const empty = session.recipes.shipped().every(({ mesh }) => mesh.faceCount === 0);
  return (
    <Card
      glyph="file"
      title="File"
      isOpen
      hint={`${format === 'stl' ? 'Polygons are cut into triangles.' : 'Polygons are kept.'} ${format === 'glb' ? 'GLB is in metres.' : `The file is in ${unit}.`}${session.plane ? ' The mirrored half is made real.' : ''}`}
    >
      <TextBox label="Name in the file" value={name} onChange={setName} />
      <Choice label="Pivot at" value={pivot} onChange={setPivot} options={PIVOTS} />
      <Choice label="Format" value={format} onChange={setFormat} options={FORMATS} />
      <Toggle label="With normals" value={normals} onChange={setNormals} />
      <MainButton
        isDisabled={empty || write.isPending || name.trim() === ''}
        onPress={() => write.mutate({ name: name.trim(), pivot, format, normals })}
      >
        {write.isPending ? 'Writing …' : 'Write the file'}
      </MainButton>
      {empty && <Note>Nothing is laid yet, so there is nothing to write.</Note>}
      {write.error && <p role="alert">{messageOf(write.error)}</p>}
      {write.data && (
        <Note role="status">
          {write.data.fileName}: <span className="num">{count(write.data.faces)}</span> faces,{' '}
          <span className="num">{count(write.data.vertices)}</span> points,{' '}
          <span className="num">{count(write.data.bytes.length)}</span> bytes. {write.data.notes.join(' ')}
        </Note>
      )}
    </Card>
  );
}

type FileChoice = Pick<ExportRequest, 'name' | 'pivot' | 'format' | 'normals'>;

function useWriteFile() {
  const session = useSession();
  const bench = useBench();
  return useMutation({
    mutationFn: async ({ name, pivot, format, normals }: FileChoice): Promise<Exported & { fileName: string }> => {
      const worker = new Worker(new URL('../../workers/exportWorker.ts', import.meta.url), { type: 'module' });
      try {
        const placement = bench.scene?.placed;
        if (!placement) throw new Error('the view is not there');
        const scale = format === 'glb' ? UNITS[session.settings.unit] : 1;
        const done = await wrap<ExportWorker>(worker).write({
          pieces: packPieces(session.document.pieces),
          plane: session.plane,
          placement,
          scale,
          pivot,
          format,
          name,
          normals,
          metersPerUnit: UNITS[session.settings.unit],
        });
        const stem = name.toLowerCase().endsWith(`.${format}`) ? name.slice(0, -format.length - 1) : name;
        const fileName = `${stem.replace(/[/\\:*?"<>|]+/g, '_')}.${format}`;
        download(done.bytes, fileName);
        return { ...done, fileName };
      } finally {
        worker.terminate();
      }
    },
  });
}

function download(bytes: Uint8Array, fileName: string): void {
  const url = URL.createObjectURL(new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'application/octet-stream' }));
  const link = document.createElement('a');
  link.href = url;
  link.download = fileName;
  link.click();
  setTimeout(() => URL.revokeObjectURL(url), 60_000);
}
