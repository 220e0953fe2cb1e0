import { useState, type ReactNode } from 'react';
import type { Piece } from '@half-loop/contract';
import { Button, ColourBox, Note, OrderList, TextBox, Toggle } from '../../kit';
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
import { fileBoxOf } from '../../viewport';
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
      <OrderList
        label="Pieces, the one in hand chosen"
        items={pieces.map((p) => ({ id: p.id, text: p.name, aside: asideOf(p), tint: p.tint }))}
        chosen={session.piece.id}
        onChoose={(id) => session.usePiece(id)}
        onMove={(id, to) => orderPiece(session, id, to)}
      />
      <InHand key={session.piece.id} session={session} />
    </Card>
  );
}

/** How many faces a piece has, and what else must be known before it is touched. */
const asideOf = ({ mesh, visible, locked }: Piece): string =>
  [count(mesh.faceCount), ...(visible ? [] : ['hidden']), ...(locked ? ['locked'] : [])].join(', ');

function part(session: Session): void {
  if (!partPieces(session))
    session.say({ kind: 'refused', text: 'All of this piece hangs together; pick the faces to take out instead.' });
}

/** A guide body fills the middle of what is there. */
function beginGuideBody({ session, scale }: Bench): void {
  const box = fileBoxOf(session);
  const size = Math.min(...box.max.map((x, k) => x - box.min[k]));
  const radius = size > 0 ? size / 2 : GUIDE_RADIUS / scale;
  const at = size > 0 ? boxCentre(box) : ([0, 0, 0] as const);
  addGuideBody(session, radius, [at[0], at[1], at[2]]);
}
/** A piece's own tint as it begins. */
const TINT = '#c9b27c';
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
      <Toggle
        label="Locked: nothing changes it"
        value={piece.locked}
        onChange={(locked) => changePiece(session, piece.id, { locked })}
      />
      <Toggle
        label="A tint of its own"
        value={piece.tint !== null}
        onChange={(on) => changePiece(session, piece.id, { tint: on ? TINT : null })}
      />
      {piece.tint !== null && (
        <ColourBox
          label={`Tint of ${piece.name}`}
          value={piece.tint}
          onChange={(tint) => changePiece(session, piece.id, { tint })}
        />
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
