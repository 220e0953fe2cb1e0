import { useState, type ReactNode } from 'react';
import { Button, Choice, Note, TextBox, Toggle } from '../../kit';
import {
  addGuideBody,
  addPiece,
  changePiece,
  joinPiece,
  orderPiece,
  partPieces,
  pieceFromPicked,
  removePiece,
  setAside,
  useSession,
  type Session,
} from '../../session';
import { boxCentre } from '@half-loop/core/math';
import { count } from '../format';
import { useBench, useView, type Bench } from './Bench';
import { Card } from './Card';

/** The pieces of the asset: which one is in hand, what it is called, and how picked faces become one of their own. */
export function PiecesCard(): ReactNode {
  const session = useSession('reset', 'mesh', 'selection', 'history', 'pieces');
  const [isOpen, setOpen] = useState(false);
  const { pieces } = session.document;
  return (
    <Card
      glyph="pieces"
      title={pieces.length === 1 ? 'Pieces' : `Pieces: ${pieces.length}`}
      isOpen={isOpen}
      onOpen={() => setOpen(true)}
      hint="Tools work on the piece in hand; the others are shown paler. All that are shown are counted and shipped."
    >
      <Choice
        label="In hand"
        value={session.piece.id}
        options={pieces.map((p) => [p.id, `${p.name}${p.visible ? '' : ', hidden'}: ${count(p.mesh.faceCount)}`])}
        onChange={(id) => session.usePiece(id)}
      />
      <InHand key={session.piece.id} session={session} />
    </Card>
  );
}

function part(session: Session): void {
  if (!partPieces(session))
    session.say({ kind: 'refused', text: 'All of this piece hangs together; pick the faces to take out instead.' });
}

/** A guide body fills the middle of what is there. */
function beginGuideBody({ session, scene, scale }: Bench): void {
  const box = scene?.fileBox();
  const size = box ? Math.min(...box.max.map((x, k) => x - box.min[k])) : 0;
  const radius = size > 0 ? size / 2 : GUIDE_RADIUS / scale;
  const at = box && size > 0 ? boxCentre(box) : ([0, 0, 0] as const);
  addGuideBody(session, radius, [at[0], at[1], at[2]]);
}
/** metres */
const GUIDE_RADIUS = 0.05;

function InHand({ session }: { session: Session }): ReactNode {
  const bench = useBench();
  const { isolated } = useView();
  const { piece, document, selection } = session;
  const [name, setName] = useState(piece.name);
  const others = document.pieces.filter((p) => p.id !== piece.id);
  const none = selection.faces.length === 0;
  return (
    <>
      <TextBox label="Name" value={name} onChange={setName} />
      <Button
        isDisabled={name.trim() === '' || name.trim() === piece.name}
        onPress={() => changePiece(session, piece.id, { name: name.trim() })}
      >
        Rename
      </Button>
      <Toggle
        label="Shown and shipped"
        value={piece.visible}
        onChange={(visible) => changePiece(session, piece.id, { visible })}
      />
      <Toggle
        label="A guide body: points stick to it, it never ships"
        value={piece.guide}
        onChange={(guide) => changePiece(session, piece.id, { guide })}
      />
      {others.length > 0 && (
        <Toggle label="Only this one is seen" value={isolated} onChange={(on) => bench.view.set({ isolated: on })} />
      )}
      {others.length > 0 && (
        <div style={{ display: 'flex', gap: 4 }}>
          <Button onPress={() => orderPiece(session, piece.id, -1)}>Earlier in the list</Button>
          <Button onPress={() => orderPiece(session, piece.id, 1)}>Later</Button>
        </div>
      )}
      <Button isDisabled={piece.mesh.faceCount === 0} onPress={() => setAside(session)}>
        Set a copy aside
      </Button>
      <Button isDisabled={piece.mesh.faceCount === 0} onPress={() => part(session)}>
        Part what does not hang together
      </Button>
      <Button onPress={() => addPiece(session)}>New piece</Button>
      <Button onPress={() => beginGuideBody(bench)}>New guide body</Button>
      <Button isDisabled={none} onPress={() => pieceFromPicked(session, false)}>
        Copy the picked faces into one
      </Button>
      <Button isDisabled={none} onPress={() => pieceFromPicked(session, true)}>
        Take the picked faces out
      </Button>
      {none && <Note>Pick faces to make a piece of them.</Note>}
      {others.map((p) => (
        <Button key={p.id} onPress={() => joinPiece(session, p.id)}>
          Join “{p.name}” to it
        </Button>
      ))}
      {others.length > 0 && <Button onPress={() => removePiece(session, piece.id)}>Delete “{piece.name}”</Button>}
    </>
  );
}
