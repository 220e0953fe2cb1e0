import { decodeDocument, encodeDocument, headOf, type AssetCard, type AssetDocument, type AssetSettings, type Piece, type PieceHead } from '@half-loop/contract'; // prettier-ignore
import { TopologyError } from '@half-loop/core/errors';
import type { MirrorPlane } from '@half-loop/core/math';
import { EMPTY_SELECTION, isEmptyDelta, liveSelection, touchedElements, type Delta, type PolyMesh, type Selection } from '@half-loop/core/mesh'; // prettier-ignore
import { runOperator, sectorsIn, type Form, type Ground, type Operator, type Outcome } from '@half-loop/core/ops';
import type { SculptSurface } from '@half-loop/core/surface';
import type * as z from 'zod/mini';
import { AutoSave } from './AutoSave';
import { DistanceWatch } from './DistanceWatch';
import { Drag, type DragHost } from './Drag';
import { Emitter } from './Emitter';
import { Idle } from './Idle';
import { Journal } from './Journal';
import type { Latest } from './Latest';
import { RecipeWatch } from './RecipeWatch';
import { SculptRegions } from './SculptRegions';
import type { Notice } from './Notice';
import type { LogHead, SessionLog } from './SessionLog';
import { applyPatches, joins, setHeads, type Step, type StepPatch } from './Step';
import { lockOf, planeOf, summaryOf } from './summary';

/** The open document of one asset: its truth, its history, its saving. Views listen to `events`. */
export class Session {
  readonly events = new Emitter();
  readonly autoSave: AutoSave;
  readonly distance: DistanceWatch;
  readonly recipes: RecipeWatch;
  readonly sculptRegions: SculptRegions;
  selection: Selection = EMPTY_SELECTION;
  notice: Notice | null = null;
  latest: Latest | null = null;
  private inHand = '';
  /** what points stick to while operators move them; how the asset is worked on decides */
  form: () => Form | null = () => null;
  private readonly journal: Journal;
  private busy: Promise<void> = Promise.resolve();
  private openDrag: Drag | null = null;

  constructor(
    public asset: AssetCard,
    public document: AssetDocument,
    readonly surface: SculptSurface | null,
    log: SessionLog,
  ) {
    this.journal = new Journal(log, () => this.say({ kind: 'refused', text: 'This browser does not let me keep unsaved work; it is saved on the server only.' })); // prettier-ignore
    this.autoSave = new AutoSave({
      assetId: asset.id,
      capture: () => ({ bytes: this.encode(), stamp: this.head.stamp, base: this.head.baseRevision }),
      acknowledged: ({ revision, savedAt }, stamp) => {
        this.asset = { ...this.asset, revision, savedAt };
        this.journal.write({ baseRevision: revision, savedStamp: stamp });
      },
      isDirty: () => this.head.stamp !== this.head.savedStamp,
      // a save says what would ship, so it waits until that is known
      isPreviewing: () => this.mesh.inTransaction || this.recipes.isBehind,
      changed: () => this.events.emit('save', undefined),
    });
    this.distance = new DistanceWatch(this);
    this.recipes = new RecipeWatch(this);
    this.sculptRegions = new SculptRegions(this);
  }

  /** The piece that is worked on: this page's choice, not the document's. */
  get piece(): Piece {
    return this.document.pieces.find(({ id }) => id === this.inHand) ?? this.document.pieces[0];
  }
  get mesh(): PolyMesh {
    return this.piece.mesh;
  }
  get settings(): AssetSettings {
    return this.document.settings;
  }
  get plane(): MirrorPlane | null {
    return planeOf(this.document);
  }
  get ground(): Ground {
    return { plane: this.plane, form: this.form(), sectors: sectorsIn(this.piece, this.mesh), locked: lockOf(this.piece) }; // prettier-ignore
  }
  private get head(): LogHead {
    return this.journal.head;
  }
  get steps(): { titles: LogHead['titles']; position: number } {
    return this.head;
  }
  encode(): Uint8Array {
    return encodeDocument(this.document, summaryOf(this.document, this.recipes.shipped()));
  }

  // ---- changes ----------------------------------------------------------------------------------
  /** Runs an operator on the low-poly as one step. A refusal becomes a notice and changes nothing. */
  run<S extends z.ZodMiniType>(
    op: Operator<S>,
    params: z.input<S>,
    selection: Selection = this.selection,
  ): Outcome | null {
    this.openDrag?.cancel();
    try {
      const { delta, ...outcome } = runOperator(this.mesh, op, selection, params, this.ground);
      this.keepMeshStep(delta, outcome, { op: op as unknown as Operator, selection, params: params as object });
      return outcome;
    } catch (error) {
      this.refused(error);
      return null;
    }
  }

  /** Takes over what an operator made of this low-poly beside the page, as one step. */
  takeOver({ delta, ...outcome }: Outcome & { delta: Delta }, made: Omit<Latest, 'seq' | 'report'>): void {
    this.openDrag?.cancel();
    this.turn(delta, 'forward');
    this.keepMeshStep(delta, outcome, made);
  }

  /** Runs the latest step again with other settings, in its place; a refusal leaves it as it was. */
  adjust(params: object): void {
    const { latest } = this;
    const drag = this.reopen();
    if (!latest || !drag) return;
    const done = drag.update(latest.op, latest.selection, params);
    if ('report' in done) return void drag.commit();
    drag.cancel();
    this.refused(done);
  }

  /** Opens the latest step again as a drag, from the state before it; cancelled, it is as it was. Null when nothing can be opened. */
  reopen(): Drag | null {
    const { latest } = this;
    const delta = latest && this.journal.recentStep(latest.seq)?.meshes?.[0].delta;
    if (!latest || !delta || latest.seq !== this.head.position - 1 || this.canRedo) return null;
    this.openDrag?.cancel();
    this.turn(delta, 'backward');
    const back = (): void => this.turn(delta, 'forward');
    return this.open((d, outcome, made) => this.keepMeshStep(d, outcome, made, latest.seq), back);
  }

  private turn(delta: Delta, way: 'forward' | 'backward'): void {
    const touched = touchedElements(this.mesh, delta.columns);
    this.mesh.apply(delta, way);
    this.events.emit('mesh', touchedElements(this.mesh, delta.columns, touched));
  }

  private refused(error: unknown): void {
    if (!(error instanceof TopologyError)) throw error;
    this.say({ kind: 'refused', text: error.message });
  }

  /** Begins a drag: operators run in preview until it is committed as one step, or cancelled. */
  drag(): Drag {
    this.openDrag?.cancel();
    const text = lockOf(this.piece);
    if (text) this.say({ kind: 'refused', text });
    return this.open((delta, outcome, made) => this.keepMeshStep(delta, outcome, made));
  }
  private open(committed: DragHost['committed'], cancelled = (): void => undefined): Drag {
    const touched: DragHost['touched'] = (what) => this.events.emit('mesh', what);
    const closed = (): void => void (this.openDrag = null);
    this.openDrag = new Drag(this.mesh, this.ground, { touched, committed, closed, cancelled });
    return this.openDrag;
  }

  private keepMeshStep(
    delta: Delta,
    outcome: Outcome,
    made: Omit<Latest, 'seq' | 'report'>,
    seq = this.head.position,
  ): void {
    const { selection, report } = outcome;
    this.events.emit('mesh', touchedElements(this.mesh, delta.columns));
    if (isEmptyDelta(delta) && seq === this.head.position)
      return this.say({ kind: 'done', text: `${report.sentence}: all was so already.` });
    const meshes = [{ pieceId: this.piece.id, delta }];
    const before =
      (seq < this.head.position ? this.journal.recentStep(seq)?.selection.before : undefined) ?? this.selection;
    this.keep(report.sentence, { meshes, selection: { before, after: selection } }, seq);
    this.latest = { ...made, seq, report };
    this.select(selection);
  }

  /** Changes settings as one step; quick successions of the same kind join, unless each shall stand for itself. */
  changeSettings(name: string, change: Partial<AssetSettings>, isJoined = true): void {
    const before = this.settings;
    const after = { ...before, ...change };
    if (JSON.stringify(before) === JSON.stringify(after)) return;
    this.document.settings = after;
    this.keepJoined(name, (last) => ({ settings: { before: last?.settings?.before ?? before, after } }), isJoined);
    this.events.emit('settings', undefined);
  }

  /** Changes what pieces are besides their meshes as one step; quick successions of the same kind join. */
  changeHeads(name: string, change: (head: PieceHead) => PieceHead): void {
    const before = this.document.pieces.map(headOf);
    const after = before.map(change);
    if (JSON.stringify(before) === JSON.stringify(after)) return;
    const shut = before.find((h, i) => h.locked && after[i].locked && h.recipe !== after[i].recipe);
    if (shut) return this.say({ kind: 'refused', text: lockOf(shut) as string });
    setHeads(this.document, after);
    this.keepJoined(name, (last) => ({ heads: { before: last?.heads?.before ?? before, after } }));
    this.events.emit('pieces', undefined);
  }

  private keepJoined(name: string, patch: (last: Step | null) => Omit<StepPatch, 'selection'>, isJoined = true): void {
    const { position, titles } = this.head;
    const last = this.journal.recentStep(position - 1);
    const goesOn = isJoined && last !== undefined && position === titles.length && joins(last, name);
    const selection = { before: this.selection, after: this.selection };
    this.keep(name, { ...patch(goesOn ? last : null), selection }, goesOn ? position - 1 : position);
  }

  /** Puts another document in this one's place, as one step. */
  replaceDocument(name: string, bytes: Uint8Array): void {
    const before = this.encode();
    this.keep(name, { whole: { before, after: bytes }, selection: { before: this.selection, after: EMPTY_SELECTION } });
    this.become(bytes);
    this.select(EMPTY_SELECTION);
  }

  /** Takes another piece in hand. */
  usePiece(id: string): void {
    if (id === this.piece.id || !this.document.pieces.some((p) => p.id === id)) return;
    this.openDrag?.cancel();
    this.latest = null;
    this.inHand = id;
    this.selection = EMPTY_SELECTION;
    this.events.emit('reset', undefined);
    this.events.emit('selection', undefined);
    this.events.emit('history', undefined);
  }

  select(selection: Selection): void {
    this.selection = selection;
    this.events.emit('selection', undefined);
  }

  say(notice: Notice | null): void {
    this.notice = notice;
    this.events.emit('notice', undefined);
  }

  // ---- history ----------------------------------------------------------------------------------
  get canUndo(): boolean {
    return this.head.position > 0;
  }
  get canRedo(): boolean {
    return this.head.position < this.head.titles.length;
  }
  undo(): Promise<void> {
    if (this.openDrag) {
      this.openDrag.cancel();
      return Promise.resolve();
    }
    return this.goTo(() => this.head.position - 1);
  }
  redo(): Promise<void> {
    return this.goTo(() => this.head.position + 1);
  }
  step(seq: number): Promise<Step | undefined> {
    return this.journal.step(seq);
  }
  /** Undoes or redoes up to a place in the history. Steps run one after the other, also when called quickly. */
  goTo(target: () => number): Promise<void> {
    this.openDrag?.cancel();
    this.latest = null;
    this.busy = this.busy.then(async () => {
      const to = Math.max(0, Math.min(this.head.titles.length, target()));
      while (this.head.position !== to) {
        const forward = to > this.head.position;
        const seq = forward ? this.head.position : this.head.position - 1;
        const step = await this.step(seq);
        if (!step)
          return this.say({ kind: 'refused', text: 'That step is not in this browser any more; it cannot be undone.' });
        this.apply(step, forward);
        this.journal.write({ position: forward ? seq + 1 : seq, stamp: this.head.stamp + 1 });
      }
      this.events.emit('history', undefined);
      this.autoSave.poke();
    });
    return this.busy;
  }

  /** Applies a step's patches one way; used by undo, redo and replay. */
  apply(step: StepPatch, forward: boolean): void {
    const way = forward ? 'after' : 'before';
    if (step.whole) this.become(step.whole[way]);
    // a step shows where it worked
    if (step.meshes) this.usePiece(step.meshes[0].pieceId);
    const touched = applyPatches(this.document, step, forward);
    // elements of other pieces have numbers of their own
    if (step.meshes && step.meshes.length > 1) this.events.emit('reset', undefined);
    else if (step.meshes) this.events.emit('mesh', touched);
    if (step.settings || step.done) this.events.emit('settings', undefined);
    if (step.heads) this.events.emit('pieces', undefined);
    this.select(liveSelection(this.mesh, step.selection[way]));
  }

  private become(bytes: Uint8Array): void {
    this.document = decodeDocument(bytes).document;
    this.events.emit('reset', undefined);
    this.events.emit('settings', undefined);
  }

  /** Puts what was done on the history, in place of what was at `seq`. */
  keep(name: string, patch: StepPatch, seq = this.head.position): void {
    this.latest = null;
    // a settings or mesh step is already in the document when it is kept; a whole one is about to be
    this.journal.put(seq, { name, at: Date.now(), ...patch }, () => patch.whole?.after ?? this.encode());
    if (this.head.position - this.head.snapshotPosition >= 25) this.snapshots.ask();
    this.say(null);
    this.events.emit('history', undefined);
    this.autoSave.poke();
  }

  private readonly snapshots = new Idle(1500, () => {
    if (this.mesh.inTransaction) return this.snapshots.ask();
    this.journal.snapshot(this.encode());
  });

  /** After a conflict: go on from the server's revision with this document. */
  rebase(revision: number): void {
    this.journal.write({ baseRevision: revision, stamp: this.head.stamp + 1 });
    this.autoSave.resume();
  }

  close(): void {
    this.openDrag?.cancel();
    this.autoSave.stop();
    this.distance.stop();
    this.recipes.stop();
    this.snapshots.stop();
  }
}
