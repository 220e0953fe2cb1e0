import { distance, lerp, type Vec3 } from '@half-loop/core/math';
import { EMPTY_SELECTION } from '@half-loop/core/mesh';
import { cut, type Anchor } from '@half-loop/core/ops';
import { fractionOnEdge } from '@half-loop/core/pick';
import { MODEL_COLOURS, NO_OVERLAY, type Hit, type Overlay } from '../viewport';
import type { Tool, ToolHost } from './Tool';

interface Place {
  anchor: Anchor;
  at: Vec3;
  words: string;
}

/** Fractions that a cut catches on, and how near it must come. */
const CATCHES = [0.25, 1 / 3, 0.5, 2 / 3, 0.75];
const CATCH = 0.035;

/**
 * Cut: click points and edges one after the other, Enter cuts along them; or drag a stroke from one edge to another. Catches
 * on points, middles, thirds and quarters.
 */
export class CutTool implements Tool {
  readonly name = 'cut';
  private places: Place[] = [];
  private hovered: Place | null = null;
  private eye: Vec3 | null = null;
  private stroke = false;

  constructor(private readonly host: ToolHost) {}

  hint(): string {
    if (this.stroke) return 'Let go on an edge or a point to cut to there.';
    if (this.places.length === 0)
      return 'Click where the cut begins, on an edge or a point, then where it goes on; or drag a stroke across.';
    return `${this.places.length === 1 ? 'Click where the cut goes on.' : 'Enter cuts; or click where it goes on.'} Click the first place again to close it. Backspace takes one back.`;
  }
  hover(hit: Hit | null): void {
    this.hovered = hit ? this.placeAt(hit) : null;
    this.host.tell(this.hovered?.words ?? null);
    this.draw();
  }
  wantsDrag(hit: Hit): boolean {
    return this.placeAt(hit) !== null;
  }
  click(hit: Hit): void {
    const place = this.placeAt(hit);
    if (!place) return;
    this.eye = hit.view.eye;
    const first = this.places[0];
    if (this.places.length > 2 && distance(place.at, first.at) < 1e-9) return this.run(true);
    this.places.push(place);
    this.draw();
  }
  dragStart(hit: Hit): void {
    const place = this.placeAt(hit);
    if (!place) return;
    this.eye = hit.view.eye;
    this.places = [...this.places, place];
    this.stroke = true;
  }
  drag(hit: Hit): void {
    this.hovered = this.placeAt(hit);
    this.host.tell(this.hovered?.words ?? null);
    this.draw();
  }
  dragEnd(): void {
    this.stroke = false;
    if (this.hovered) {
      this.places.push(this.hovered);
      this.run(false);
    } else this.places.pop();
    this.draw();
  }
  finish(): boolean {
    if (this.places.length < 2) return false;
    this.run(false);
    return true;
  }
  stepBack(): boolean {
    const had = this.places.pop() !== undefined;
    this.draw();
    return had;
  }
  cancel(): boolean {
    const had = this.places.length > 0;
    this.places = [];
    this.hovered = null;
    this.stroke = false;
    this.host.tell(null);
    this.draw();
    return had;
  }

  private run(closed: boolean): void {
    const anchors = this.places.map((p) => p.anchor);
    const params = {
      ...this.host.settings(cut.name),
      anchors,
      eye: [...(this.eye as Vec3)] as [number, number, number],
    };
    this.places = [];
    this.host.session.run(cut, closed ? { ...params, closed } : params, EMPTY_SELECTION);
    this.draw();
  }

  private placeAt(hit: Hit): Place | null {
    const { mesh } = this.host.session;
    const e = hit.element;
    if (!e || e.mirrored) return null;
    if (e.kind === 'vertex' && mesh.hasVertex(e.id))
      return { anchor: { vertex: e.id }, at: mesh.point(e.id), words: 'point' };
    if (e.kind !== 'edge' || !mesh.hasEdge(e.id)) return null;
    const [u, v] = [mesh.origin(2 * e.id), mesh.target(2 * e.id)];
    const [a, b] = [mesh.point(u), mesh.point(v)];
    const t = Math.max(0.02, Math.min(0.98, fractionOnEdge(hit.view.eye, hit.direction, a, b)));
    const at = CATCHES.find((c) => Math.abs(c - t) < CATCH) ?? t;
    const words = at === 0.5 ? 'middle' : `${Math.round(at * 100)} %`;
    return { anchor: { edge: [u, v], at }, at: lerp(a, b, at), words };
  }

  private draw(): void {
    const overlay: Overlay = { ...NO_OVERLAY, points: [], lines: [] };
    const shown = this.hovered ? [...this.places, this.hovered] : this.places;
    const colour = MODEL_COLOURS.picked;
    overlay.points = shown.map(({ at }, i) => ({
      at,
      colour: i < this.places.length ? colour : MODEL_COLOURS.pointed,
      size: 11,
      shape: 0 as const,
    }));
    overlay.lines = shown.slice(1).map(({ at }, i) => ({ a: shown[i].at, b: at, colour, width: 2.4 }));
    this.host.draw(overlay);
  }
}
