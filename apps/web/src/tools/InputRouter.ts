import type { Hit, SceneView } from '../viewport';
import type { Press, Tool } from './Tool';

const DRAG_PX = 4;
const SECOND_MS = 380;
const STEP_PX = 8;

type Gesture =
  | { name: 'none' }
  | { name: 'pressed'; x: number; y: number; hit: Hit; press: Press; takes: boolean }
  | { name: 'tool'; tool: Tool }
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
  /** digits typed into the open drag */
  private digits = '';

  constructor(
    private readonly element: HTMLElement,
    private readonly scene: SceneView,
    private readonly tool: () => Tool,
    /** takes a drag that begins on the background with Shift held */
    private readonly lasso: () => Tool,
    private readonly changed: () => void,
    /** a right click that does not drag */
    private readonly menu: (hit: Hit) => void,
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
      this.press(x, y, e, this.soonAgain(x, y, e.timeStamp), e.pointerType === 'pen' ? e.pressure : 1);
    this.changed();
  }

  /** The event after a mouse's pointerdown: it alone knows the count of presses by the time its owner has set for the machine. */
  private mousePressed(e: MouseEvent): void {
    // a press with Shift would select the page's text up to here; focus was given by pointerdown
    e.preventDefault();
    if (e.button !== 0 || this.gesture.name !== 'none') return;
    const { x, y } = this.at(e);
    this.press(x, y, e, e.detail === 2, 1);
    this.changed();
  }

  /** Whether this press follows one on the same place within a moment; remembers it. */
  private soonAgain(x: number, y: number, time: number): boolean {
    const near = Math.hypot(x - this.lastPress.x, y - this.lastPress.y) < 6;
    const soon = near && time - this.lastPress.at < SECOND_MS;
    this.lastPress = { at: time, x, y };
    return soon;
  }

  private press(
    x: number,
    y: number,
    { shiftKey: shift, altKey: alt }: MouseEvent,
    second: boolean,
    pressure: number,
  ): void {
    const press = { shift, second, alt, pressure };
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
      if (event) this.move(this.at(event), event);
    });
  }

  private move({ x, y }: { x: number; y: number }, e?: PointerEvent): void {
    this.lastAt = { x, y };
    const g = this.gesture;
    if (g.name === 'none') this.tool().hover(this.scene.picker.hit(x, y));
    else if (g.name === 'tool') g.tool.drag(this.heldHit(x, y, e));
    else if (g.name === 'pressed') this.perhapsDrag(g, x, y, e);
    else {
      const [dx, dy] = [x - g.x, y - g.y];
      if (g.name === 'orbit') this.scene.camera.orbit(dx, dy);
      else this.scene.camera.pan(dx, dy);
      this.gesture = { ...g, x, y, moved: g.moved + Math.abs(dx) + Math.abs(dy) };
      this.scene.invalidate();
    }
    this.changed();
  }

  /** What lies under a pixel, with the pen's pressure and whether Ctrl is held. */
  private heldHit(x: number, y: number, e?: PointerEvent): Hit {
    const hit = this.scene.picker.hit(x, y);
    return { ...hit, pressure: e?.pointerType === 'pen' ? e.pressure : undefined, catching: e?.ctrlKey === true };
  }

  private perhapsDrag(g: Gesture & { name: 'pressed' }, x: number, y: number, e?: PointerEvent): void {
    if (Math.hypot(x - g.x, y - g.y) < DRAG_PX) return;
    const tool = g.takes ? this.tool() : g.press.shift ? this.lasso() : null;
    if (tool) {
      this.gesture = { name: 'tool', tool };
      this.digits = '';
      tool.dragStart(g.hit, g.press);
      tool.drag(this.heldHit(x, y, e));
    } else {
      this.gesture = { name: 'orbit', x: g.x, y: g.y, moved: 0 };
      this.move({ x, y });
    }
  }

  private up(e: PointerEvent): void {
    if (this.pending) {
      this.pending = null;
      this.move(this.at(e), e);
    }
    const g = this.gesture;
    this.gesture = { name: 'none' };
    if (g.name === 'pressed') this.tool().click(g.hit, g.press);
    if (g.name === 'tool') g.tool.dragEnd();
    if (g.name === 'orbit' && g.moved < DRAG_PX && e.button === 2) this.menu(this.scene.picker.hit(g.x, g.y));
    this.changed();
  }

  private lost(): void {
    const g = this.gesture;
    this.gesture = { name: 'none' };
    if (g.name === 'tool') g.tool.cancel();
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
      this.digits = '';
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

  /** A key while a drag is open: digits go into the drag first. True when it was one. */
  typeInto(key: string): boolean {
    // a drag may have begun since the last frame
    if (this.pending && this.gesture.name === 'pressed' && /^[\d.-]$/.test(key)) {
      const event = this.pending;
      this.pending = null;
      this.move(this.at(event), event);
    }
    const tool = this.gesture.name === 'tool' ? this.gesture.tool : this.keyDrag ? this.tool() : null;
    if (!tool && /^[1-9]$/.test(key)) return this.chooseWay(Number(key) - 1);
    if (!tool?.typed || !/^[\d.-]$|^Backspace$/.test(key)) return false;
    this.digits = key === 'Backspace' ? this.digits.slice(0, -1) : this.digits + key;
    const value = Number(this.digits);
    tool.typed(this.digits === '' || !Number.isFinite(value) ? null : value);
    this.changed();
    return true;
  }

  /** A digit while ways are offered shows that one. */
  private chooseWay(index: number): boolean {
    const offer = this.tool().offer?.();
    if (!offer || index >= offer.choices.length) return false;
    offer.choose(index);
    this.changed();
    return true;
  }

  /** Esc: the tool lets go first, then the cursor goes. */
  escape(): void {
    this.keyDrag = false;
    const g = this.gesture;
    if (g.name === 'tool') this.gesture = { name: 'none' };
    if (!(g.name === 'tool' ? g.tool : this.tool()).cancel()) this.cursor = null;
    this.changed();
  }
}
