import type { Hit, SceneView } from '../viewport';
import type { Press, Tool } from './Tool';

const DRAG_PX = 4;
const SECOND_MS = 380;
const STEP_PX = 8;

type Gesture =
  | { name: 'none' }
  | { name: 'pressed'; x: number; y: number; hit: Hit; press: Press; takes: boolean }
  | { name: 'tool' }
  | { name: 'orbit' | 'pan'; x: number; y: number; moved: number };

/**
 * Turns the page's pointer and key events on the view into hits for the tool, or into camera moves. Moves are handled once a
 * frame; everything else at once, in order. The arrow keys move a cursor that stands in for the pointer.
 */
export class InputRouter {
  private gesture: Gesture = { name: 'none' };
  private lastPress = { at: 0, x: 0, y: 0 };
  private pending: PointerEvent | null = null;
  /** where the keyboard's cursor is, pixels; null while the pointer leads */
  cursor: { x: number; y: number } | null = null;
  private keyDrag = false;
  private lastAt: { x: number; y: number } | null = null;

  constructor(
    private readonly element: HTMLElement,
    private readonly scene: SceneView,
    private readonly tool: () => Tool,
    private readonly changed: () => void,
  ) {}

  /** Where the pointer, or the cursor that stands in for it, is; pixels. */
  get pointer(): { x: number; y: number } | null {
    return this.cursor ?? this.lastAt;
  }

  /** Listens; returns how to stop. */
  listen(): () => void {
    const { element } = this;
    const on = <K extends keyof HTMLElementEventMap>(
      type: K,
      handler: (e: HTMLElementEventMap[K]) => void,
      options?: AddEventListenerOptions,
    ): (() => void) => {
      element.addEventListener(type, handler, options);
      return () => element.removeEventListener(type, handler, options);
    };
    const stops = [
      on('pointerdown', (e) => this.down(e)),
      on('mousedown', (e) => this.mousePressed(e)),
      on('pointermove', (e) => this.queueMove(e)),
      on('pointerup', (e) => this.up(e)),
      on('pointercancel', () => this.lost()),
      on('lostpointercapture', () => this.gesture.name !== 'none' && this.lost()),
      on('pointerleave', () => this.gesture.name === 'none' && this.tool().hover(null)),
      on('wheel', (e) => this.wheel(e), { passive: false }),
      on('contextmenu', (e) => e.preventDefault()),
      on('keydown', (e) => this.key(e)),
    ];
    return () => stops.forEach((stop) => stop());
  }

  private at(e: MouseEvent): { x: number; y: number } {
    const box = this.element.getBoundingClientRect();
    return { x: e.clientX - box.left, y: e.clientY - box.top };
  }

  private down(e: PointerEvent): void {
    this.element.focus({ preventScroll: true });
    this.element.setPointerCapture(e.pointerId);
    this.pending = null;
    this.cursor = null;
    const { x, y } = this.at(e);
    if (e.button === 1 || (e.button === 2 && e.shiftKey)) this.gesture = { name: 'pan', x, y, moved: 0 };
    else if (e.button === 2) this.gesture = { name: 'orbit', x, y, moved: 0 };
    else if (e.button === 0 && e.pointerType !== 'mouse')
      this.press(x, y, e.shiftKey, this.soonAgain(x, y, e.timeStamp));
    this.changed();
  }

  /** The event after a mouse's pointerdown: it alone knows the count of presses by the time its owner has set for the machine. */
  private mousePressed(e: MouseEvent): void {
    if (e.button !== 0 || this.gesture.name !== 'none') return;
    const { x, y } = this.at(e);
    this.press(x, y, e.shiftKey, e.detail === 2);
    this.changed();
  }

  /** Whether this press follows one on the same place within a moment; remembers it. */
  private soonAgain(x: number, y: number, time: number): boolean {
    const near = Math.hypot(x - this.lastPress.x, y - this.lastPress.y) < 6;
    const soon = near && time - this.lastPress.at < SECOND_MS;
    this.lastPress = { at: time, x, y };
    return soon;
  }

  private press(x: number, y: number, shift: boolean, second: boolean): void {
    const press = { shift, second };
    const hit = this.scene.picker.hit(x, y);
    this.tool().hover(hit);
    this.gesture = { name: 'pressed', x, y, hit, press, takes: this.tool().wantsDrag(hit, press) };
  }

  private queueMove(e: PointerEvent): void {
    const first = this.pending === null;
    this.pending = e;
    if (!first) return;
    requestAnimationFrame(() => {
      const event = this.pending;
      this.pending = null;
      if (event) this.move(this.at(event));
    });
  }

  private move({ x, y }: { x: number; y: number }): void {
    this.lastAt = { x, y };
    const g = this.gesture;
    if (g.name === 'none') this.tool().hover(this.scene.picker.hit(x, y));
    else if (g.name === 'tool') this.tool().drag(this.scene.picker.hit(x, y));
    else if (g.name === 'pressed') this.perhapsDrag(g, x, y);
    else {
      const [dx, dy] = [x - g.x, y - g.y];
      if (g.name === 'orbit') this.scene.camera.orbit(dx, dy);
      else this.scene.camera.pan(dx, dy);
      this.gesture = { ...g, x, y, moved: g.moved + Math.abs(dx) + Math.abs(dy) };
      this.scene.invalidate();
    }
    this.changed();
  }

  private perhapsDrag(g: Gesture & { name: 'pressed' }, x: number, y: number): void {
    if (Math.hypot(x - g.x, y - g.y) < DRAG_PX) return;
    if (g.takes) {
      this.gesture = { name: 'tool' };
      this.tool().dragStart(g.hit, g.press);
      this.tool().drag(this.scene.picker.hit(x, y));
    } else {
      this.gesture = { name: 'orbit', x: g.x, y: g.y, moved: 0 };
      this.move({ x, y });
    }
  }

  private up(e: PointerEvent): void {
    if (this.pending) {
      this.pending = null;
      this.move(this.at(e));
    }
    const g = this.gesture;
    this.gesture = { name: 'none' };
    if (g.name === 'pressed') this.tool().click(g.hit, g.press);
    if (g.name === 'tool') this.tool().dragEnd();
    this.changed();
  }

  private lost(): void {
    const wasTool = this.gesture.name === 'tool';
    this.gesture = { name: 'none' };
    if (wasTool) this.tool().cancel();
    this.changed();
  }

  private wheel(e: WheelEvent): void {
    e.preventDefault();
    const { x, y } = this.at(e);
    this.scene.camera.zoom(Math.exp(Math.max(-0.5, Math.min(0.5, e.deltaY * 0.0015))), x, y);
    this.scene.invalidate();
    this.changed();
  }

  // ---- the keyboard's cursor --------------------------------------------------------------------
  private key(e: KeyboardEvent): void {
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const arrow = arrows[e.key];
    if (arrow && e.altKey) this.turn(arrow);
    else if (arrow) this.moveCursor(arrow, e.shiftKey ? 1 : STEP_PX);
    else if (e.key === 'PageUp' || e.key === 'PageDown') this.zoomBy(e.key === 'PageUp' ? 0.87 : 1.15);
    else if (e.key === 'Enter' && this.cursor) this.pressCursor(e.shiftKey, e.timeStamp);
    else if (e.key === 'Tab' && this.cursor && !e.ctrlKey) this.walk(e.shiftKey ? -1 : 1);
    else return;
    e.preventDefault();
    e.stopPropagation();
    this.changed();
  }

  private turn([dx, dy]: [number, number]): void {
    this.scene.camera.orbit(dx * 20, dy * 20);
    this.scene.invalidate();
  }

  private zoomBy(factor: number): void {
    const { width, height } = this.scene.camera;
    this.scene.camera.zoom(factor, this.cursor?.x ?? width / 2, this.cursor?.y ?? height / 2);
    this.scene.invalidate();
  }

  private moveCursor([dx, dy]: [number, number], step: number): void {
    const { width, height } = this.scene.camera;
    const from = this.cursor ?? { x: width / 2, y: height / 2 };
    const inside = (v: number, most: number): number => Math.max(0, Math.min(most - 1, v));
    this.cursor = this.cursor ? { x: inside(from.x + dx * step, width), y: inside(from.y + dy * step, height) } : from;
    const hit = this.scene.picker.hit(this.cursor.x, this.cursor.y);
    if (this.keyDrag) this.tool().drag(hit);
    else this.tool().hover(hit);
  }

  /** Enter clicks; Shift and Enter takes hold, and the next Enter lets go. */
  private pressCursor(shift: boolean, time: number): void {
    const { x, y } = this.cursor as { x: number; y: number };
    const hit = this.scene.picker.hit(x, y);
    const press = { shift: false, second: false };
    if (this.keyDrag) {
      this.keyDrag = false;
      this.tool().dragEnd();
    } else if (shift && this.tool().wantsDrag(hit, press)) {
      this.keyDrag = true;
      this.tool().dragStart(hit, press);
    } else {
      this.tool().click(hit, { shift, second: this.soonAgain(x, y, time) });
    }
  }

  /** To the next vertex in view, in the order of ids. */
  private walk(step: 1 | -1): void {
    const { mesh } = this.scene.session;
    const { width, height } = this.scene.camera;
    const seen = [...mesh.vertices()]
      .map((v) => this.scene.picker.pixelOf(mesh.point(v)))
      .filter((p) => p.along > 0 && p.x >= 0 && p.y >= 0 && p.x < width && p.y < height);
    if (seen.length === 0 || !this.cursor) return;
    const { x, y } = this.cursor;
    const at = seen.findIndex((p) => Math.hypot(p.x - x, p.y - y) < 1);
    const next =
      at < 0
        ? seen.reduce((a, b) => (Math.hypot(b.x - x, b.y - y) < Math.hypot(a.x - x, a.y - y) ? b : a))
        : seen[(at + step + seen.length) % seen.length];
    this.cursor = { x: next.x, y: next.y };
    this.tool().hover(this.scene.picker.hit(next.x, next.y));
  }

  /** Esc: the tool lets go first, then the cursor goes. */
  escape(): void {
    this.keyDrag = false;
    if (!this.tool().cancel()) this.cursor = null;
    this.changed();
  }
}
