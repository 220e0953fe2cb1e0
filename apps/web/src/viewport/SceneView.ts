import { Group, type PerspectiveCamera, type WebGLRenderer } from 'three';
import { boxOf, placementOf, toPlaced, type Box, type Placement, type Vec3 } from '@half-loop/core/math';
import { PIN_CHANNEL, type Touched } from '@half-loop/core/mesh';
import type { SculptSurface } from '@half-loop/core/surface';
import type { Session } from '../session';
import { niceCeil } from './distanceScale';
import { LensPaint } from './LensPaint';
import { flowMarks } from './flowLines';
import { fileBoxOf } from './fileBox';
import { guideLines } from './guideLines';
import { LowPolyLayer, type Emphasis } from './LowPolyLayer';
import { MODEL_COLOURS } from './modelColours';
import { isCutter, MadeLayer, othersOf } from './MadeLayer';
import { OtherPieces } from './OtherPieces';
import type { Line } from './LineSet';
import { OverlayLayer } from './OverlayLayer';
import { OutlineLayer, silhouettesOf } from './OutlineLayer';
import { Picker } from './Picker';
import { placeGroup } from './placeGroup';
import { RING, type Mark } from './PointSet';
import { RegionsView } from './RegionsView';
import { SculptLayer } from './SculptLayer';
import { SubdivisionLayer } from './SubdivisionLayer';
import { TriedLayer } from './TriedLayer';
import { TriedPair } from './TriedPair';
import { ViewCamera } from './ViewCamera';
import { workPlaneLines } from './workPlaneLines';
import type { ViewState } from './ViewState';

/** What a tool draws over the model while it works. File space. */
export interface Overlay {
  points: Mark[];
  lines: Line[];
  /** lit up before the press: what a drag would take */
  pointedEdges: number[];
  pointedFace: number | null;
  /** picked faces keep their colour, which paint shows on */
  showsPaint?: boolean;
}
export const NO_OVERLAY: Overlay = { points: [], lines: [], pointedEdges: [], pointedFace: null };

const MOST_MARKS = 400;

/** Draws a session. Plain three.js, no React state; a frame only when `invalidate` is called. */
export class SceneView {
  readonly root = new Group();
  readonly camera = new ViewCamera();
  readonly picker: Picker;
  private readonly content = new Group();
  private readonly lowPoly: LowPolyLayer;
  private readonly sculpt: SculptLayer | null;
  /** regions painted on the sculpt */
  readonly regions: RegionsView | null;
  private readonly finer = new SubdivisionLayer();
  private readonly outline = new OutlineLayer();
  private readonly made = new MadeLayer();
  private readonly others = new OtherPieces();
  private readonly tried = new TriedPair();
  private readonly patch = new TriedLayer();
  /** whose outline the lens Outline compares with */
  outlineOf: () => SculptSurface | null = () => this.session.surface;
  readonly paint: LensPaint;
  private readonly over = new OverlayLayer();
  private readonly stops: (() => void)[] = [];
  private overlay: Overlay = NO_OVERLAY;
  private placement: Placement;
  private emphasis: Emphasis = {
    picked: { vertices: new Set(), edges: new Set(), faces: new Set() },
    pointed: { edges: new Set(), face: null },
  };
  private readonly ending = new AbortController();

  constructor(
    readonly session: Session,
    readonly view: ViewState,
    readonly invalidate: () => void,
  ) {
    this.paint = new LensPaint(session, view);
    this.placement = this.placementNow();
    this.picker = new Picker(session, this.camera, view, () => this.placement);
    this.lowPoly = new LowPolyLayer(this.paint.colours, () => this.emphasis);
    this.sculpt = session.surface ? new SculptLayer(session.surface) : null;
    this.regions = this.sculpt && new RegionsView(session, view, this.sculpt, this.over, invalidate);
    this.root.add(this.content);
    if (this.sculpt) this.content.add(this.sculpt.mesh);
    const { finer, made, others, tried, patch, lowPoly, over, outline } = this;
    this.content.add(finer.group, made.group, others.group, tried.group, patch.group, lowPoly.own, lowPoly.mirror, over.group, outline.quad); // prettier-ignore
    this.listen();
    void this.sculpt?.lighten(this.ending.signal).then((standInTriangles) => {
      if (standInTriangles !== null) this.view.set({ standInTriangles });
    });
    this.showOthers();
    this.camera.frame(this.placedBox());
    this.rebuild();
  }

  dispose(): void {
    this.ending.abort();
    this.regions?.stop();
    this.sculpt?.dispose();
    this.finer.dispose();
    this.outline.dispose();
    this.made.dispose();
    this.tried.dispose();
    this.patch.dispose();
    this.others.clear();
    this.stops.forEach((stop) => stop());
  }

  private listen(): void {
    const { events } = this.session;
    let { lens, subdivision, isolated, hiddenRegions } = this.view.now;
    const drawnBy = (): string => JSON.stringify([this.session.plane, this.session.settings.regions, this.session.settings.quadLength]); // prettier-ignore
    let drawn = drawnBy();
    // strokes may be long: they are told apart by what holds them
    let strokes = this.session.settings.densities;
    this.stops.push(
      events.on('mesh', (touched) => this.meshChanged(touched)),
      events.on('reset', () => {
        this.picker.rebuild();
        this.showOthers();
        this.rebuild();
      }),
      events.on('settings', () => {
        this.applySettings();
        // tint and opacity pass by here many times a second; only another plane or other regions change what is drawn
        const now = drawnBy();
        if (now !== drawn) {
          this.showOthers();
          this.rebuild();
        } else if (strokes !== this.session.settings.densities) this.retint();
        drawn = now;
        strokes = this.session.settings.densities;
        this.invalidate();
      }),
      events.on('selection', () => this.emphasize()),
      events.on('recipe', () => this.recipeChanged()),
      events.on('pieces', () => (this.recipeChanged(), this.retint())),
      events.on('distance', () => this.view.now.lens === 'distance' && this.retint()),
      this.view.subscribe(() => {
        if (subdivision !== this.view.now.subdivision) this.finer.changed();
        if (hiddenRegions !== this.view.now.hiddenRegions) this.picker.rebuild();
        if (lens !== this.view.now.lens || hiddenRegions !== this.view.now.hiddenRegions) this.rebuild();
        if (isolated !== this.view.now.isolated) this.showOthers();
        ({ lens, subdivision, isolated, hiddenRegions } = this.view.now);
        this.applySettings();
        this.invalidate();
      }),
    );
  }

  private meshChanged(touched: Touched): void {
    this.picker.update(touched);
    this.finer.changed();
    if (this.view.now.lens === 'loops') return this.rebuild();
    this.lowPoly.update(this.session.mesh, touched, this.session.plane);
    if (this.view.now.lens === 'poles' || this.session.mesh.findChannel('vertex', PIN_CHANNEL.name)) this.showPoles();
    this.invalidate();
  }

  private rebuild(): void {
    this.finer.changed();
    this.paint.refresh();
    this.lowPoly.rebuild(this.session.mesh, this.session.plane);
    this.showPoles();
    this.invalidate();
  }

  private showOthers(): void {
    this.others.show(this.view.now.isolated ? [] : othersOf(this.session));
    this.applySettings();
  }

  private get layers(): LowPolyLayer[] {
    return [this.lowPoly, ...this.made.all, ...this.others.all, ...this.tried.all, ...this.patch.all];
  }

  private recipeChanged(): void {
    this.picker.surfaces.clear();
    this.finer.changed();
    this.showOthers();
    this.invalidate();
  }

  // ---- colours ----------------------------------------------------------------------------------
  private retint(): void {
    this.paint.refresh();
    for (const f of this.session.mesh.faces()) this.lowPoly.tintFace(this.session.mesh, f);
    this.lowPoly.flush();
    this.invalidate();
  }

  // ---- emphasis ---------------------------------------------------------------------------------
  setOverlay(overlay: Overlay): void {
    this.overlay = overlay;
    this.emphasize();
  }

  private emphasize(): void {
    const { selection, mesh, plane } = this.session;
    const before = this.emphasis;
    const now: Emphasis = {
      picked: {
        vertices: new Set(selection.vertices),
        edges: new Set(selection.edges),
        faces: new Set(this.overlay.showsPaint ? [] : selection.faces),
      },
      pointed: { edges: new Set(this.overlay.pointedEdges), face: this.overlay.pointedFace },
    };
    this.emphasis = now;
    for (const set of [before.picked.faces, now.picked.faces])
      for (const f of set) if (before.picked.faces.has(f) !== now.picked.faces.has(f)) this.lowPoly.tintFace(mesh, f);
    if (before.pointed.face !== now.pointed.face)
      for (const f of [before.pointed.face, now.pointed.face]) if (f !== null) this.lowPoly.tintFace(mesh, f);
    const edges = new Set([...before.picked.edges, ...now.picked.edges, ...before.pointed.edges, ...now.pointed.edges]);
    for (const e of edges) {
      const changed =
        before.picked.edges.has(e) !== now.picked.edges.has(e) ||
        before.pointed.edges.has(e) !== now.pointed.edges.has(e);
      if (changed) this.lowPoly.drawEdge(mesh, e, plane);
    }
    this.lowPoly.flush();
    this.drawOverlay();
    this.invalidate();
  }

  private drawOverlay(): void {
    const { lines, points } = this.overlay;
    const picked: Mark[] = [...this.emphasis.picked.vertices]
      .filter((v) => this.session.mesh.hasVertex(v))
      .map((v) => ({ at: this.session.mesh.point(v), colour: MODEL_COLOURS.picked, size: 10, shape: 0 }));
    this.over.showTool(lines, [...picked, ...points]);
    this.over.showPlace(this.view.now.place);
    this.over.showGrid(workPlaneLines(this.picker.workPlane(), this.gridSize));
  }

  private showPoles(): void {
    const { flow } = this.view.now;
    this.over.showPoles(...this.tried.marks(() => (flow ? flowMarks(flow, this.session.plane) : this.paint.marks())));
  }

  /** Side of a cell of the work plane's grid, file units. */
  private get gridSize(): number {
    return this.session.surface ? niceCeil(this.session.surface.diagonal / 20) : 1;
  }

  // ---- settings ---------------------------------------------------------------------------------
  private placementNow(): Placement {
    const { up, front, onFloor } = this.session.settings;
    return placementOf(up, front, fileBoxOf(this.session), onFloor && this.session.surface !== null);
  }
  get placed(): Placement {
    return this.placement;
  }
  placedBox(): Box {
    const { min, max } = fileBoxOf(this.session);
    return boxOf([toPlaced(min, this.placement), toPlaced(max, this.placement)].flat());
  }

  private applySettings(): void {
    const { settings, plane, surface } = this.session;
    this.placement = this.placementNow();
    placeGroup(this.content, this.placement);
    this.lowPoly.showMirror(plane);
    this.lowPoly.own.visible = this.view.now.flow?.over !== 'sculpt';
    this.lowPoly.mirror.visible &&= this.lowPoly.own.visible;
    this.sculpt?.apply(settings, plane, this.view.throughNow);
    this.regions?.show();
    const isFiner = this.view.now.subdivision > 0;
    this.finer.show(isFiner);
    const made = this.view.now.showMade ? this.session.recipes.made(this.session.piece.id) : null;
    this.made.show(isFiner ? null : (made?.mesh ?? null));
    this.lowPoly.showFaces(!isFiner && !made && !isCutter(this.session));
    const lift = surface ? surface.diagonal * 0.022 : 0.02;
    const { patch, flow } = this.view.now;
    this.patch.show(patch?.mesh ?? null, plane);
    if ([this.over.showFlow(flow, plane), this.tried.show(this.view.now, plane)].includes(true)) this.showPoles();
    for (const layer of this.layers) layer.look(lift, this.view.throughNow ? 0.6 : 1);
    // it also clears the edges, which stand before their faces
    for (const layer of this.patch.all) layer.look(1.3 * lift + (patch?.lift ?? 0), 1);
    this.over.lift(lift * 2);
    this.over.showGuides(guideLines(settings.guides, plane, this.gridSize));
    this.drawOverlay();
  }

  /** Brings the renderer's camera and the line widths up to date; called before each frame. */
  prepare(camera: PerspectiveCamera, gl: WebGLRenderer): void {
    const { width, height } = this.camera;
    this.camera.lead(camera);
    const made = this.view.now.showMade ? this.session.recipes.made(this.session.piece.id) : null;
    this.finer.update(made?.mesh ?? this.session.mesh, made ? null : this.session.plane, this.view.now.subdivision);
    this.over.spanPoles(this.tried.wipe([this.lowPoly, ...this.made.all], this.view.now.wipe * width * gl.getPixelRatio())); // prettier-ignore
    for (const m of this.layers.flatMap((l) => l.lineMaterials)) m.uniforms.uResolution.value.set(width, height);
    this.over.fit(width, height, gl.getPixelRatio());
    this.outline.quad.visible = this.view.now.lens === 'outline';
    if (this.outline.quad.visible)
      this.outline.draw(gl, camera, this.content.matrix, this.outlineOf(), silhouettesOf(this.lowPoly, this.finer));
  }

  /** Brings what lies under a pixel to the middle of the view; false when nothing does. */
  centreOn(x: number, y: number): boolean {
    const { view, direction } = this.picker.ray(x, y);
    const hit = this.session.surface?.raycast(view.eye, direction) ?? this.picker.grid.raycast(view.eye, direction);
    if (!hit) return false;
    const p = [0, 1, 2].map((k) => view.eye[k] + direction[k] * hit.distance) as unknown as Vec3;
    this.camera.target = toPlaced(p, this.placement);
    this.invalidate();
    return true;
  }

  /** Goes to where some points are, file space, and to where their outside is seen, if one is given, and marks them until the pointer moves over the model. */
  goTo(points: readonly Vec3[], outside: Vec3 | null = null): void {
    const placed = points.map((p) => toPlaced(p, this.placement));
    this.camera.goTo(boxOf(placed.flat()), outside && toPlaced(outside, { ...this.placement, lift: 0 }));
    const marks = points.slice(0, MOST_MARKS).map((at): Mark => ({ at, colour: MODEL_COLOURS.pointed, size: 10, shape: RING })); // prettier-ignore
    this.setOverlay({ ...NO_OVERLAY, points: marks });
  }

  /** Draws where points went, and goes there. */
  showMoves(moves: readonly { from: Vec3; to: Vec3 }[]): void {
    this.goTo(moves.map((m) => m.to));
    const lines = moves.map(({ from, to }): Line => ({ a: from, b: to, colour: MODEL_COLOURS.pointed, width: 2.5 }));
    this.setOverlay({ ...this.overlay, lines });
  }

  showAll(): void {
    this.camera.frame(this.placedBox());
    this.invalidate();
  }
}
