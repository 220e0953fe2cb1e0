import { createHash } from 'node:crypto';
import 'fake-indexeddb/auto';
import fc from 'fast-check';
import { afterEach, describe, expect, it } from 'vitest';
import { DEFAULT_SETTINGS, encodeDocument, plainPiece, type AssetCard, type AssetDocument } from '@half-loop/contract';
import { seededRng, type Rng } from '@half-loop/core/math';
import type { PolyMesh } from '@half-loop/core/mesh';
import { checkInvariants, EMPTY_SELECTION, type Selection } from '@half-loop/core/mesh';
import { deletePicked, OPERATORS, RECIPE_STEPS, type Operator } from '@half-loop/core/ops';
import { ballMesh, cubeMesh, gridMesh, pick } from '@half-loop/core/testing';
import { markDone } from './markDone';
import { addGuideBody, addPiece, alsoPlaced, changePiece, joinPiece, orderPiece, partPieces, pieceFromPicked, removePiece, setAside } from './pieceSteps'; // prettier-ignore
import { addStep, changeStep, makeRecipeReal, moveStep, removeStep } from './recipeSteps';
import { recall, resumed } from './resuming';
import { Session } from './Session';
import { logsOf, SessionLog } from './SessionLog';
import { summaryOf } from './summary';

const open: Session[] = [];
afterEach(() => open.splice(0).forEach((session) => session.close()));

const cardOf = (id: string, document: AssetDocument): AssetCard => ({
  id,
  projectId: 'p',
  name: 'Buoy',
  revision: 0,
  sculpt: null,
  sculptBefore: null,
  summary: summaryOf(document),
  savedAt: '2026-01-01T00:00:00Z',
});
/** What a save would send, to the last bit, in a few letters. */
const stored = ({ document }: Session): string => createHash('sha1').update(encodeDocument(document, summaryOf(document))).digest('hex'); // prettier-ignore

let asset = 0;
async function begun(mesh: PolyMesh): Promise<Session> {
  const document: AssetDocument = { settings: DEFAULT_SETTINGS, done: [], pieces: [plainPiece('low', 'Low-poly', mesh)] }; // prettier-ignore
  const card = cardOf(`asset-${asset++}`, document);
  const head = { assetId: card.id, pageId: 'page', baseRevision: 0, position: 0, titles: [], snapshotPosition: 0, stamp: 0, savedStamp: 0, use: 1 }; // prettier-ignore
  const log = await SessionLog.begin(head, encodeDocument(document, card.summary));
  const session = new Session(card, document, null, log);
  open.push(session);
  return session;
}
/** The same asset, opened again by a page that comes later. */
async function openedAgain(session: Session): Promise<Session> {
  const [head] = await logsOf(session.asset.id);
  const known = await recall(head);
  if (!known) throw new Error('The log holds no document.');
  const again = await resumed(session.asset, null, known);
  open.push(again);
  return again;
}

const someOf = (rng: Rng, ids: number[]): number[] =>
  ids.length === 0 ? [] : [...new Set(Array.from({ length: 1 + Math.floor(4 * rng()) }, () => pick(rng, ids)))];
function anySelection(mesh: PolyMesh, rng: Rng): Selection {
  const kind = Math.floor(4 * rng());
  return {
    vertices: kind === 0 ? someOf(rng, [...mesh.vertices()]) : [],
    edges: kind === 1 ? someOf(rng, [...mesh.edges()]) : [],
    faces: kind > 1 ? someOf(rng, [...mesh.faces()]) : [],
  };
}

/** What hands do in the workbench, as they come: some of it is refused, which must change nothing. */
type Act = (session: Session, rng: Rng) => unknown;
/** Faces beyond which nothing is made finer here. */
const LARGE = 400;
/** Pieces beyond which none are added here. */
const MANY = 4;
const named = (name: string): Operator => OPERATORS.get(name) as Operator;
const TOOLS = ['insert-loops', 'extrude', 'inset', 'bevel', 'poke', 'dissolve', 'collapse', 'subdivide', 'weld-within', 'mirror', 'cap', 'thicken', 'copies', 'smooth', 'transform', 'crease', 'box', 'cylinder'].filter((name) => OPERATORS.has(name)); // prettier-ignore
const ACTS: Record<string, Act> = {
  'run a tool': (s, rng) => s.run(named(s.mesh.faceCount < LARGE ? pick(rng, TOOLS) : 'dissolve'), {} as never, anySelection(s.mesh, rng)), // prettier-ignore
  'delete what is picked': (s, rng) => s.run(deletePicked, anySelection(s.mesh, rng) as never),
  'pick': (s, rng) => s.select(anySelection(s.mesh, rng)), // prettier-ignore
  'set the latest step otherwise': (s, rng) => s.latest && s.adjust({ ...s.latest.params, amount: rng(), levels: 1 }),
  'drag': (s, rng) => {
    const drag = s.drag();
    const selection = anySelection(s.mesh, rng);
    for (let i = 0; i < 3; i++) drag.update(named('transform'), selection, { move: [rng(), rng(), 0] } as never);
    return rng() < 0.6 ? drag.commit() : rng() < 0.5 ? drag.cancel() : s.undo();
  }, // prettier-ignore
  'move it, and the other pieces with it': async (s, rng) => {
    const params = { move: [rng(), 0, 0] };
    const all = { ...EMPTY_SELECTION, vertices: [...s.mesh.vertices()] };
    if (s.run(named('transform'), params as never, all)) await alsoPlaced(s, named('transform'), params);
  },
  'open the latest step as a drag': (s, rng) => {
    const drag = s.reopen();
    if (!drag || !s.latest) return drag?.cancel();
    drag.update(s.latest.op, s.latest.selection, s.latest.params as never);
    return rng() < 0.5 ? drag.commit() : drag.cancel();
  },
  'change settings': (s, rng) => s.changeSettings('Budget', { budget: 500 + Math.floor(5 * rng()) }, rng() < 0.7),
  'turn symmetry': (s) => s.changeSettings('Symmetry', { symmetry: { ...s.settings.symmetry, on: !s.settings.symmetry.on } }), // prettier-ignore
  'mark a stage done': (s, rng) => markDone(s, pick(rng, ['gather', 'lay', 'flow'] as const), rng() < 0.6),
  'begin a piece': (s) => s.document.pieces.length < MANY && addPiece(s),
  'begin a guide body': (s, rng) => s.document.pieces.length < MANY && addGuideBody(s, 1 + rng(), [0, 0, 0]),
  'take what is picked out': (s, rng) => pieceFromPicked(s, rng() < 0.5),
  'set aside': (s) => s.document.pieces.length < MANY && setAside(s),
  'part': (s) => s.document.pieces.length < MANY && partPieces(s), // prettier-ignore
  'join a piece': (s, rng) => joinPiece(s, pick(rng, s.document.pieces).id),
  'take a piece away': (s, rng) => s.document.pieces.length > 2 && removePiece(s, pick(rng, s.document.pieces).id),
  'order pieces': (s, rng) => orderPiece(s, pick(rng, s.document.pieces).id, Math.floor(4 * rng())),
  'hide or lock a piece': (s, rng) => changePiece(s, pick(rng, s.document.pieces).id, rng() < 0.5 ? { visible: rng() < 0.5 } : { locked: rng() < 0.3 }), // prettier-ignore
  'take another piece in hand': (s, rng) => s.usePiece(pick(rng, s.document.pieces).id),
  'add to the recipe': (s, rng) => s.piece.recipe.length < 3 && addStep(s, pick(rng, [...RECIPE_STEPS.keys()].filter((op) => op !== 'boolean')), {}), // prettier-ignore
  'set the recipe': (s, rng) => s.piece.recipe.length > 0 && (rng() < 0.5 ? changeStep(s, 0, { on: rng() < 0.5 }) : moveStep(s, 0, 1)), // prettier-ignore
  'take a step of the recipe out': (s) => s.piece.recipe.length > 0 && removeStep(s, 0),
  'make the recipe real': (s) => s.piece.recipe.length > 0 && makeRecipeReal(s, 1),
};

/** What is done on a mesh is done more often than the rest. */
const ON_MESH = ['run a tool', 'run a tool', 'set the latest step otherwise', 'open the latest step as a drag', 'drag'];
const OFTEN = [...Object.keys(ACTS), ...ON_MESH, ...ON_MESH, ...ON_MESH];

/** A walk that remembers what the document was after each step. */
class Walk {
  /** by how many steps are done; later ones can be redone */
  readonly states: string[];

  constructor(readonly session: Session) {
    this.states = [stored(session)];
  }

  /** Something, or now and then to another place in the history. */
  step(rng: Rng): Promise<void> {
    return rng() < 0.15 ? this.goes(Math.floor(rng() * this.states.length)) : this.act(rng);
  }

  async act(rng: Rng): Promise<void> {
    const { session, states } = this;
    const name = pick(rng, OFTEN);
    const before = session.steps.titles;
    await ACTS[name](session, rng);
    const { position, titles } = session.steps;
    // what is refused, or changes nothing, leaves what could be redone
    if (titles !== before) states.length = position;
    else expect(stored(session), name).toBe(states[position]);
    states[position] = stored(session);
    expect(titles.length, name).toBe(states.length - 1);
    for (const { mesh } of session.document.pieces) expect(checkInvariants(mesh), name).toEqual([]);
  }

  async goes(to: number): Promise<void> {
    await this.session.goTo(() => to);
    expect(this.session.steps.position).toBe(to);
    expect(stored(this.session)).toBe(this.states[to]);
  }
}

describe('the history of an asset', () => {
  it('gives back every state to the last bit, whatever was done in between, and to a page that opens it later', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer(), async (seed) => {
        const rng = seededRng(seed);
        const walk = new Walk(await begun(pick(rng, [() => cubeMesh(), () => gridMesh(4, 3), () => ballMesh(3)])()));
        for (let i = 0; i < 40; i++) await walk.step(rng);
        const { session, states } = walk;
        const end = session.steps.position;
        expect(stored(await openedAgain(session))).toBe(states[end]);
        await walk.goes(0);
        await walk.goes(states.length - 1);
        for (let i = 0; i < 4; i++) await walk.goes(Math.floor(rng() * states.length));
        const later = await openedAgain(session);
        expect(stored(later)).toBe(states[session.steps.position]);
        // it can undo what the page before it did
        await later.goTo(() => 0);
        expect(stored(later)).toBe(states[0]);
      }),
      { numRuns: 20 },
    );
  });

  it('is kept short by a document in between, and is right where what was done is undone to before that', async () => {
    const rng = seededRng(7);
    const walk = new Walk(await begun(gridMesh(4, 3)));
    const { session, states } = walk;
    while (session.steps.position < 30) await walk.act(rng);
    // it is kept a while after the last change
    await expect.poll(async () => (await logsOf(session.asset.id))[0].snapshotPosition, { timeout: 5000 }).toBeGreaterThan(20); // prettier-ignore
    expect(stored(await openedAgain(session))).toBe(states[session.steps.position]);
    await walk.goes(9);
    expect(stored(await openedAgain(session))).toBe(states[9]);
    session.changeSettings('Budget', { budget: 321 }, false);
    const again = await openedAgain(session);
    expect(again.settings.budget).toBe(321);
    await again.undo();
    expect(stored(again)).toBe(states[9]);
  });

  it('takes nothing of a refusal, and says it', async () => {
    const session = await begun(cubeMesh());
    const before = stored(session);
    expect(session.run(named('extrude'), {} as never, EMPTY_SELECTION)).toBeNull();
    expect(session.notice).toMatchObject({ kind: 'refused' });
    expect(session.canUndo).toBe(false);
    expect(stored(session)).toBe(before);
  });
});
