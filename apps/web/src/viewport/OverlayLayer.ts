import { Group } from 'three';
import { flowLines } from './flowLines';
import { LineSet, type Line } from './LineSet';
import { lineMaterial, pointMaterial } from './materials';
import { placeMarks } from './placeMarks';
import { PointSet, type Mark } from './PointSet';
import type { MirrorPlane } from '@half-loop/core/math';
import type { ViewSettings } from './ViewState';

/** How much is seen of a place that is pointed out where the form is in front of it. */
const BEHIND = 0.3;

/** What is drawn over the model: a tool's lines and marks, a place pointed out, poles, guides, and the grid of the work plane. */
export class OverlayLayer {
  readonly group = new Group();
  private readonly lines = new LineSet();
  private readonly marks = new PointSet();
  private readonly poles = new PointSet();
  /** of what is shown left of a wipe */
  private readonly polesBeside = new PointSet();
  private readonly place = new PointSet();
  private readonly guides = new LineSet();
  private readonly borders = new LineSet();
  private readonly flow = new LineSet();
  private readonly grid = new LineSet();
  private shownFlow: ViewSettings['flow'] = null;
  private readonly lineMaterials = [lineMaterial(false), lineMaterial(true), lineMaterial(true)];
  /** of a tool's marks, poles, poles beside a wipe, a place where it is seen, and where the form is in front of it */
  private readonly pointMaterials = [
    pointMaterial(false),
    pointMaterial(true),
    pointMaterial(true),
    pointMaterial(true),
    pointMaterial(false, BEHIND),
  ];

  constructor() {
    const lines = this.lines.mesh(this.lineMaterials[0]),
      guides = this.guides.mesh(this.lineMaterials[1]),
      borders = this.borders.mesh(this.lineMaterials[1]),
      flow = this.flow.mesh(this.lineMaterials[1]),
      grid = this.grid.mesh(this.lineMaterials[2]),
      marks = this.marks.points(this.pointMaterials[0]),
      poles = this.poles.points(this.pointMaterials[1]),
      beside = this.polesBeside.points(this.pointMaterials[2]),
      place = this.place.points(this.pointMaterials[3]),
      behind = this.place.points(this.pointMaterials[4]);
    borders.renderOrder = flow.renderOrder = 2;
    beside.renderOrder = 4;
    [guides.renderOrder, poles.renderOrder, lines.renderOrder, marks.renderOrder] = [3, 4, 5, 6];
    place.renderOrder = behind.renderOrder = 6;
    this.group.add(grid, flow, borders, guides, lines, marks, poles, beside, place, behind);
  }

  showTool(lines: readonly Line[], marks: readonly Mark[]): void {
    this.lines.show(lines);
    this.marks.show(marks);
  }
  /** A place pointed out, or none: clear where it is seen, faint where the form is in front of it. */
  showPlace(place: ViewSettings['place']): void {
    this.place.show(placeMarks(place));
  }
  showPoles(marks: readonly Mark[], beside: readonly Mark[]): void {
    this.poles.show(marks);
    this.polesBeside.show(beside);
  }

  /** Poles are drawn from so many device pixels across the picture on alone, those beside left of that. */
  spanPoles(from: number): void {
    this.pointMaterials[1].uniforms.uSpan.value.set(from, 1e6);
    this.pointMaterials[2].uniforms.uSpan.value.set(-1e6, from);
  }
  showGuides(lines: readonly Line[]): void {
    this.guides.show(lines);
  }
  /** Borders of regions painted on the sculpt. */
  showBorders(lines: readonly Line[]): void {
    this.borders.show(lines);
  }
  /** Sample loops of a flow, or none; tells whether that changed anything. */
  showFlow(flow: ViewSettings['flow'], plane: MirrorPlane | null): boolean {
    if (flow === this.shownFlow) return false;
    this.shownFlow = flow;
    this.flow.show(flow ? flowLines(flow, plane) : []);
    return true;
  }
  showGrid(lines: readonly Line[]): void {
    this.grid.show(lines);
  }

  /** How far in front of the model it is drawn, file units. */
  lift(by: number): void {
    for (const m of [this.lineMaterials[0], this.lineMaterials[1], ...this.pointMaterials]) m.uniforms.uLift.value = by;
  }
  fit(width: number, height: number, pixelRatio: number): void {
    for (const m of this.lineMaterials) m.uniforms.uResolution.value.set(width, height);
    for (const m of this.pointMaterials) m.uniforms.uRatio.value = pixelRatio;
  }
}
