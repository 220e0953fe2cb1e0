import { createContext, use, useSyncExternalStore } from 'react';
import { STAGES, UNITS } from '@half-loop/contract';
import type { Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION, tracedFaces } from '@half-loop/core/mesh';
import { booleanParts, deletePicked, mend, type Form, type Operator } from '@half-loop/core/ops';
import { solidsReady, stepReach, type Session } from '../../session';
import { InputRouter, NEARLY, TOOLS, type Offer, type Tool, type ToolHost, type ToolName } from '../../tools';
import { NO_OVERLAY, type Hit, type SceneView, ViewState } from '../../viewport';
import { lengthText, STAGE_NAMES } from '../format';
import { FormKeeper } from './FormKeeper';
import { offerProbe } from './probe';
import { SlowRun } from './SlowRun';
import { ToolSettings } from './ToolSettings';

/** Weld distance unless one is set: this share of the sculpt's diagonal. */
const WELD_SHARE = 0.006;

/** Tools that lay on what points stick to, whatever moves are held on. */
const LAYING: readonly ToolName[] = ['row', 'ring-opening', 'thread', 'fill'];

/** One open workbench: the session, how it is looked at, and the tool in hand. */
export class Bench {
  readonly view = new ViewState();
  readonly settings: ToolSettings;
  readonly forms: FormKeeper;
  readonly slow: SlowRun;
  scene: SceneView | null = null;
  router: InputRouter | null = null;
  toolName: ToolName = 'quad';
  /** words beside the pointer */
  told: string | null = null;
  /** the outline of an open box or lasso, pixels of the view */
  outline: readonly { x: number; y: number }[] | null = null;
  /** what a right click was made on, while its list is open */
  menu: Hit | null = null;
  private tool: Tool | null = null;
  private readonly listeners = new Set<() => void>();
  private revision = 0;
  private unlisten: (() => void) | null = null;

  constructor(readonly session: Session) {
    this.view.set({ stickTo: session.surface ? 'sculpt' : 'plane', hold: session.surface ? 'sculpt' : 'free' });
    this.forms = new FormKeeper(
      session,
      () => this.view.now,
      (name) => this.scene?.picker.surfaces.of(name) ?? null,
    );
    session.form = (): Form | null =>
      LAYING.includes(this.toolName) ? this.forms.formOf(this.view.now.stickTo) : this.forms.form();
    this.settings = new ToolSettings(session, () => {
      this.tool?.settingsChanged?.();
      this.changed();
    });
    this.slow = new SlowRun(session, () => this.changed());
  }

  /** Joins the picture and the element that takes pointer and keys. */
  attach(scene: SceneView, element: HTMLElement): void {
    this.scene = scene;
    scene.outlineOf = () => this.forms.outlined();
    const host = this.hostFor(scene);
    const tools = new Map(TOOLS.map((t) => [t.name, t.make(host)]));
    this.tool = tools.get(this.toolName) as Tool;
    this.router = new InputRouter(
      element,
      scene,
      () => tools.get(this.toolName) as Tool,
      () => tools.get('lasso') as Tool,
      () => this.changed(),
      (hit) => this.openMenu(hit),
    );
    const stops = [this.router.listen(), offerProbe(scene)];
    this.unlisten = () => stops.forEach((stop) => stop());
    this.pickTool = (name) => {
      if (name !== this.toolName) this.tool?.cancel();
      this.toolName = name;
      this.tool = tools.get(name) as Tool;
      this.told = null;
      scene.setOverlay(NO_OVERLAY);
      this.changed();
    };
    this.changed();
  }
  private hostFor(scene: SceneView): ToolHost {
    return {
      session: this.session,
      view: this.view,
      scene,
      weldWithin: () => this.weldWithin,
      settings: (name) => this.settings.of(name),
      set: (name, key, value) => this.settings.change(name, key, value),
      remember: (name, values) => this.settings.remember(name, values),
      tell: (text) => (this.told = text),
      outline: (points) => (this.outline = points && [...points]),
      length: (fileUnits) => lengthText(fileUnits, this.session.settings.unit),
      draw: (overlay) => scene.setOverlay(overlay),
    };
  }
  detach(): void {
    this.slow.stop();
    this.unlisten?.();
    this.scene = null;
    this.router = null;
    this.tool = null;
  }

  pickTool: (name: ToolName) => void = (name) => {
    this.toolName = name;
    this.changed();
  };
  get hint(): string {
    return this.tool?.hint() ?? '';
  }
  /** The ways that the tool in hand offers now. */
  get offer(): Offer | null {
    return this.tool?.offer?.() ?? null;
  }
  /** Mends the lit face under the pointer, or all of them when there is none under it. */
  mendPointed(): void {
    const at = this.router?.pointer;
    const face = at && this.scene?.picker.onLowPoly(this.scene.picker.hit(at.x, at.y))?.face;
    const isLit = typeof face === 'number' && tracedFaces(this.session.mesh).lit.includes(face);
    this.session.run(mend, {}, isLit ? { ...EMPTY_SELECTION, faces: [face] } : EMPTY_SELECTION);
  }
  /** Brings what a step of the history reached into view. */
  async flyToStep(seq: number): Promise<void> {
    const step = await this.session.step(seq);
    const points = step ? stepReach(this.session.mesh, step) : [];
    if (points.length === 0)
      return this.session.say({ kind: 'refused', text: 'What this step reached is not there now, or it changed settings only.' }); // prettier-ignore
    this.scene?.goTo(points);
    this.changed();
  }
  /** Brings a place on the form, or near it, into view, from where its outside is seen. */
  goToPlace(at: Vec3): void {
    this.scene?.goTo([at], this.session.surface?.closest(at).normal);
    this.changed();
  }
  /** Enter and Backspace, handed to the tool; false when it has no use for them. */
  finish = (): boolean => this.heard(this.tool?.finish());
  stepBack = (): boolean => this.heard(this.tool?.stepBack());
  private heard(had = false): boolean {
    if (had) this.changed();
    return had;
  }

  openMenu(hit: Hit | null): void {
    this.menu = hit;
    this.changed();
  }

  get weldWithin(): number {
    const { weldWithin } = this.view.now;
    return weldWithin ?? (this.session.surface ? this.session.surface.diagonal * WELD_SHARE : 0.05);
  }
  /** Threads nearer than this nearly meet, file units. */
  get nearThreads(): number {
    return NEARLY * this.weldWithin;
  }
  /** metres a file unit */
  get scale(): number {
    return UNITS[this.session.settings.unit];
  }

  /** Runs an operator from its card or the command list, as its card is set. */
  async runCard(op: Operator): Promise<void> {
    if (op.name === booleanParts.name) await solidsReady();
    const params = this.settings.of(op.name);
    const { mesh, latest } = this.session;
    const isAgain = latest?.op.name === op.name && latest.wasSlow === true;
    if (isAgain || op.isSlow?.(mesh, params)) this.slow.begin(op, params);
    else this.session.run(op, params);
  }

  deletePicked(): void {
    const { vertices, edges, faces } = this.session.selection;
    if (vertices.length + edges.length + faces.length === 0)
      return this.session.say({ kind: 'refused', text: 'Nothing is picked. Pick with Select first, then delete.' });
    this.session.run(deletePicked, {});
    this.session.select(EMPTY_SELECTION);
  }
  toggleSculpt(): void {
    const { sculpt } = this.session.settings;
    this.session.changeSettings(sculpt.visible ? 'Sculpt hidden' : 'Sculpt shown', {
      sculpt: { ...sculpt, visible: !sculpt.visible },
    });
  }
  toggleSymmetry(): void {
    const { symmetry } = this.session.settings;
    this.session.changeSettings(symmetry.on ? 'Symmetry off' : 'Symmetry on', {
      symmetry: { ...symmetry, on: !symmetry.on },
    });
  }

  /** Something that cards or the view's frame show has changed. */
  changed(): void {
    this.revision++;
    for (const listener of this.listeners) listener();
  }
  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  version = (): number => this.revision;
}

export const BenchContext = createContext<Bench | null>(null);

/** The open workbench; renders again when its tool, hint, cursor or camera changes. */
export function useBench(): Bench {
  const bench = use(BenchContext) as Bench;
  useSyncExternalStore(bench.subscribe, bench.version);
  return bench;
}
/** How the asset is looked at; renders again when that changes. */
export function useView(): ViewState['now'] {
  const { view } = use(BenchContext) as Bench;
  return useSyncExternalStore(view.subscribe, () => view.now);
}

export const STOPS = STAGES.map((stage) => ({ stage, title: STAGE_NAMES[stage] }));
