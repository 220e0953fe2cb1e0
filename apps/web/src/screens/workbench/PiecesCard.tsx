import { useState, type ReactNode } from 'react';
import { Button, Choice, Note, TextBox, Toggle } from '../../kit';
import {
  addPiece,
  changePiece,
  joinPiece,
  pieceFromPicked,
  removePiece,
  useSession,
  type Session,
} from '../../session';
import { count } from '../format';
import { Card } from './Card';

/** The pieces of the asset: which one is in hand, what it is called, and how picked faces become one of their own. */
export function PiecesCard(): ReactNode {
  const session = useSession('reset', 'mesh', 'selection', 'history');
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

function InHand({ session }: { session: Session }): ReactNode {
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
      <Button onPress={() => addPiece(session)}>New piece</Button>
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
