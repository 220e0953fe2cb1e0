import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { DEFAULT_SETTINGS, type AssetSettings, type ProjectCard, type Unit } from '@half-loop/contract';
import { placementOf, toPlaced } from '@half-loop/core/math';
import { Button, DialogButtons, Heading, MainButton, Note, Row } from '../../kit';
import { api, messageOf, uploadBlob } from '../../session/api';
import type { Imported } from '../../workers/sculptWorker';
import { count, lengthText } from '../format';
import { Progress } from '../Progress';
import { mirroredWords, nearlyWords, planeWith } from '../symmetryWords';
import { ImportQuestions, NEW_PROJECT, type Answers } from './ImportQuestions';
import { uploadNewDocument } from './newDocument';

const Columns = styled.div`
  display: grid;
  grid-template-columns: 360px 1fr;
  gap: 24px;
  canvas {
    width: 100%;
    border-radius: 9px;
    display: block;
  }
  @media (max-width: 760px) {
    grid-template-columns: 1fr;
  }
`;

interface Props {
  file: File;
  imported: Imported;
  projects: ProjectCard[];
  onBusy: (busy: boolean) => void;
  onCancel: () => void;
}

/** What was found in the file, and the questions it cannot answer itself. */
export function ImportForm({ file, imported, projects, onBusy, onCancel }: Props): ReactNode {
  const { report } = imported;
  const proposed = planeWith(report.symmetry, 'alike')?.axis;
  const [answers, setAnswers] = useState<Answers>({
    name: file.name.replace(/\.[^.]+$/, ''),
    projectId: projects[0]?.id ?? NEW_PROJECT,
    newProject: 'My project',
    unit: 'cm',
    up: '+y',
    front: '+z',
    onFloor: true,
    symmetry: proposed ?? 'none',
  });
  const { progress, error, bringIn, cancel } = useBringIn(file, imported, onBusy);
  const { name, projectId, newProject, unit, up, front } = answers;
  const size = useMemo(() => {
    const placement = placementOf(up, front, report, false);
    const [a, b] = [report.min, report.max].map((p) => toPlaced(p, placement));
    return a.map((x, k) => Math.abs(b[k] - x));
  }, [up, front, report]);
  if (progress !== null)
    return (
      <>
        <Progress label="Storing the sculpt" value={progress} />
        <DialogButtons>
          <Button onPress={cancel}>Cancel</Button>
        </DialogButtons>
      </>
    );
  const isNew = projectId === NEW_PROJECT;
  return (
    <>
      <Columns>
        <div>
          <Picture picture={imported.picture} />
          <ReportRows imported={imported} size={size} unit={unit} />
        </div>
        <div>
          <ImportQuestions
            answers={answers}
            onChange={(change) => setAnswers({ ...answers, ...change })}
            projects={projects}
            measured={proposed ?? null}
          />
          <SymmetryNote imported={imported} symmetry={answers.symmetry} unit={unit} />
        </div>
      </Columns>
      {error && <p role="alert">{error}</p>}
      <DialogButtons>
        <Button onPress={onCancel}>Cancel</Button>
        <MainButton
          isDisabled={name.trim() === '' || (isNew && newProject.trim() === '')}
          onPress={() =>
            void bringIn(name, isNew ? { name: newProject } : { id: projectId }, settingsOf(answers, imported))
          }
        >
          Bring it in
        </MainButton>
      </DialogButtons>
    </>
  );
}

function settingsOf({ unit, up, front, onFloor, symmetry }: Answers, { report }: Imported): AssetSettings {
  const offset = report.symmetry.find((s) => s.axis === symmetry)?.offset ?? 0;
  const on = symmetry !== 'none';
  return { ...DEFAULT_SETTINGS, unit, up, front, onFloor, symmetry: { on, axis: on ? symmetry : 'x', offset } };
}

function ReportRows({
  imported: { report },
  size,
  unit,
}: {
  imported: Imported;
  size: number[];
  unit: Unit;
}): ReactNode {
  const rows: [string, string][] = [
    ['Triangles', count(report.triangles)],
    ['Points', count(report.points)],
    ['Width × height × depth', size.map((x) => lengthText(x, unit)).join(' × ')],
    ['Components', count(report.components)],
    [
      'Open borders',
      report.borderLoops === 0 ? 'none' : `${count(report.borderLoops)} (${count(report.borderEdges)} edges)`,
    ],
    ['Doubled points welded', count(report.welded)],
  ];
  if (report.loose > 0) rows.push(['Points in no triangle left out', count(report.loose)]);
  if (report.dropped > 0) rows.push(['Triangles without area left out', count(report.dropped)]);
  if (report.nonManifoldEdges > 0) rows.push(['Edges with over two triangles', count(report.nonManifoldEdges)]);
  return (
    <>
      <Heading as="h3">What is in it</Heading>
      {rows.map(([label, value]) => (
        <Row key={label}>
          <span>{label}</span>
          <span className="num">{value}</span>
        </Row>
      ))}
    </>
  );
}

function SymmetryNote({
  imported: { report },
  symmetry,
  unit,
}: {
  imported: Imported;
  symmetry: Answers['symmetry'];
  unit: Unit;
}): ReactNode {
  const diagonal = Math.hypot(...report.size);
  const found = report.symmetry.find((s) => s.axis === symmetry);
  if (found)
    return (
      <Note>
        Plane at {found.axis} = {lengthText(found.offset, unit)}. {mirroredWords(found, diagonal, unit)}
      </Note>
    );
  const nearly = planeWith(report.symmetry, 'nearly');
  if (planeWith(report.symmetry, 'alike'))
    return <Note>Measured: the sculpt is symmetrical; you can still work on all of it.</Note>;
  return (
    <Note>Measured: {nearly ? nearlyWords(nearly, diagonal, unit) : 'no plane mirrors the sculpt onto itself.'}</Note>
  );
}

function Picture({ picture }: { picture: Imported['picture'] }): ReactNode {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const { width, height, data } = picture;
    canvas.current?.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(data), width, height), 0, 0);
  }, [picture]);
  return (
    <canvas
      ref={canvas}
      width={picture.width}
      height={picture.height}
      role="img"
      aria-label="The sculpt, seen from the front and side"
    />
  );
}

/** Uploads the canonical sculpt, the original file and a document, then makes the asset and opens it. */
function useBringIn(file: File, imported: Imported, onBusy: (busy: boolean) => void) {
  const [progress, setProgress] = useState<number | null>(null);
  const [error, setError] = useState<string | null>(null);
  const navigate = useNavigate();
  const abort = useRef<AbortController | null>(null);
  const bringIn = async (
    name: string,
    project: { id: string } | { name: string },
    settings: AssetSettings,
  ): Promise<void> => {
    setError(null);
    setProgress(0);
    onBusy(true);
    const controller = new AbortController();
    abort.current = controller;
    try {
      const canonical = new Blob([imported.canonical as Uint8Array<ArrayBuffer>]);
      const total = canonical.size + file.size;
      const sculpt = await uploadBlob(canonical, (d) => setProgress((d * canonical.size) / total), controller.signal);
      const original = await uploadBlob(
        file,
        (d) => setProgress((canonical.size + d * file.size) / total),
        controller.signal,
      );
      const document = await uploadNewDocument(settings);
      const projectId = 'id' in project ? project.id : (await api.createProject(project.name)).id;
      const asset = await api.createAsset({
        projectId,
        name,
        sculpt: sculpt.hash,
        original: { hash: original.hash, fileName: file.name.slice(0, 255) },
        document,
      });
      await navigate(`/a/${asset.id}/gather`);
    } catch (e) {
      if (!controller.signal.aborted) setError(messageOf(e));
      setProgress(null);
    } finally {
      onBusy(false);
    }
  };
  return { progress, error, bringIn, cancel: () => abort.current?.abort() };
}
