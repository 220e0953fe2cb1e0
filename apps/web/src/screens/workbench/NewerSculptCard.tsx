import { useState, type ReactNode } from 'react';
import { FileTrigger } from 'react-aria-components';
import { Button, DialogBox, DialogButtons, MainButton, Note, Row } from '../../kit';
import {
  api,
  messageOf,
  replaceSculpt,
  reprojectAll,
  uploadBlob,
  useSession,
  type Move,
  type Session,
} from '../../session';
import type { Imported } from '../../workers/sculptWorker';
import { count, lengthText } from '../format';
import { useImport } from '../library/useImport';
import { Progress } from '../Progress';
import { useBench } from './Bench';
import { Card } from './Card';

/** Moves drawn in the view, at most. */
const DRAWN = 400;

/** A newer sculpt of the same thing takes the place of this one; what was laid is brought onto it, and shown where it moved most. */
export function NewerSculptCard(): ReactNode {
  const session = useSession('settings', 'save');
  const [isOpen, setOpen] = useState(false);
  const [files, setFiles] = useState<File[] | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const [isGoingBack, setGoingBack] = useState(false);
  const { sculptBefore } = session.asset;
  if (!session.surface) return null;
  const back = (): void => {
    setFailed(null);
    setGoingBack(true);
    api
      .blob(sculptBefore as string)
      .then((canonical) => replaceSculpt(session, { sculpt: sculptBefore as string, original: null }, canonical))
      .then(
        () => location.reload(),
        (error: unknown) => {
          setFailed(messageOf(error));
          setGoingBack(false);
        },
      );
  };
  return (
    <Card
      glyph="reproject"
      title="Newer sculpt"
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="When the sculptor sends a newer one: it takes this one's place, and what was laid is brought onto it, but for released points."
    >
      <FileTrigger allowsMultiple onSelect={(list) => setFiles(list ? [...list] : null)}>
        <Button>Choose the newer sculpt</Button>
      </FileTrigger>
      {sculptBefore !== null && (
        <Button isDisabled={isGoingBack} onPress={back}>
          {isGoingBack ? 'Going back …' : 'Go back to the sculpt before'}
        </Button>
      )}
      {failed !== null && <p role="alert">{failed}</p>}
      <Reproject session={session} />
      {files && files.length > 0 && <Replace session={session} files={files} onClose={() => setFiles(null)} />}
    </Card>
  );
}

/** All pieces onto the sculpt, and where that moved them most. */
function Reproject({ session }: { session: Session }): ReactNode {
  const { scene } = useBench();
  const [moves, setMoves] = useState<Move[] | null>(null);
  const { unit } = session.settings;
  const show = (of: Move[]): void => scene?.showMoves(of.slice(0, DRAWN));
  const begin = (): void => {
    const made = reprojectAll(session);
    setMoves(made);
    if (made) show(made);
  };
  const middle = moves && moves.length > 0 ? moves[moves.length >> 1].length : 0;
  return (
    <>
      <Button onPress={begin}>Bring all pieces onto the sculpt</Button>
      {moves?.length === 0 && <Note role="status">All points lay on it already.</Note>}
      {moves && moves.length > 0 && (
        <>
          <Row>
            <span>Points moved</span>
            <span className="num">{count(moves.length)}</span>
          </Row>
          <Row>
            <span>The farthest</span>
            <span className="num">{lengthText(moves[0].length, unit)}</span>
          </Row>
          <Row>
            <span>Half of them less than</span>
            <span className="num">{lengthText(middle, unit)}</span>
          </Row>
          <Button onPress={() => show(moves)}>Show where it moved most</Button>
        </>
      )}
    </>
  );
}

interface ReplaceProps {
  session: Session;
  files: File[];
  onClose: () => void;
}

/** The newer file on its way in: progress, what differs, and the question. */
function Replace({ session, files, onClose }: ReplaceProps): ReactNode {
  const [file] = files;
  const [beside] = useState(() => files.slice(1));
  const { state, cancel } = useImport(file, beside);
  const [done, setDone] = useState<number | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const leave = (): void => {
    cancel();
    onClose();
  };
  const replace = async ({ canonical }: Imported): Promise<void> => {
    setFailed(null);
    setDone(0);
    try {
      const blob = new Blob([canonical as Uint8Array<ArrayBuffer>]);
      const sculpt = await uploadBlob(blob, (d) => setDone(0.5 * d));
      const original = await uploadBlob(file, (d) => setDone(0.5 + 0.5 * d));
      const named = { hash: original.hash, fileName: file.name.slice(0, 255) };
      await replaceSculpt(session, { sculpt: sculpt.hash, original: named }, canonical);
      location.reload();
    } catch (error) {
      setFailed(messageOf(error));
      setDone(null);
    }
  };
  return (
    <DialogBox title={`Take ${file.name} for the sculpt`} isOpen onClose={leave} dismissable={done === null}>
      {state.name === 'reading' && <Progress label={state.stage} value={state.done} />}
      {state.name === 'failed' && <p role="alert">{state.message}</p>}
      {state.name === 'read' && <Differs session={session} imported={state.imported} />}
      {done !== null && <Progress label="Storing the sculpt" value={done} />}
      {failed !== null && <p role="alert">{failed}</p>}
      <DialogButtons>
        <Button isDisabled={done !== null} onPress={leave}>
          Cancel
        </Button>
        {state.name === 'read' && (
          <MainButton isDisabled={done !== null} onPress={() => void replace(state.imported)}>
            Take its place
          </MainButton>
        )}
      </DialogButtons>
    </DialogBox>
  );
}

/** What tells a newer state of the same sculpt from another one. */
function Differs({ session, imported: { report } }: { session: Session; imported: Imported }): ReactNode {
  const { unit } = session.settings;
  const { surface } = session;
  if (!surface) return null;
  const size = ({ min, max }: { min: readonly number[]; max: readonly number[] }): string =>
    max.map((x, k) => lengthText(x - min[k], unit)).join(' × ');
  return (
    <>
      <Row>
        <span>Triangles now</span>
        <span className="num">{count(surface.triangleCount)}</span>
      </Row>
      <Row>
        <span>Triangles of the newer one</span>
        <span className="num">{count(report.triangles)}</span>
      </Row>
      <Row>
        <span>Size now</span>
        <span className="num">{size(surface.box)}</span>
      </Row>
      <Row>
        <span>Size of the newer one</span>
        <span className="num">{size(report)}</span>
      </Row>
      <Note>
        Units, axes and the symmetry plane stay as they are, and so do the pieces until you bring them onto it. The
        sculpt that is here now is kept, and you can go back to it.
      </Note>
    </>
  );
}
