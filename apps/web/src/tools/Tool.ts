import type { Session } from '../session';
import type { Hit, Overlay, SceneView, ViewState } from '../viewport';

/** Held keys and repetition that change what a press means. */
export interface Press {
  shift: boolean;
  /** 0 to 1, of a pen; 1 of everything else */
  pressure?: number;
  alt?: boolean;
  /** the second press on the same place within a moment */
  second: boolean;
}

/** What a tool works with. It never sees an event or a scene: hits come in, operators and an overlay go out. */
export interface ToolHost {
  session: Session;
  view: ViewState;
  scene: SceneView;
  /** weld distance, file units */
  weldWithin(): number;
  /** a tool's card's settings, by the name of the operator or tool */
  settings(name: string): Record<string, unknown>;
  /** sets one of them */
  set(name: string, key: string, value: unknown): void;
  /** what a drag has set them to, without running anything */
  remember(name: string, values: Record<string, unknown>): void;
  /** a few words beside the pointer, such as a fraction or a distance; null takes them away */
  tell(text: string | null): void;
  /** the outline of a box or lasso, pixels of the view; null takes it away */
  outline(points: readonly { x: number; y: number }[] | null): void;
  /** a length with the asset's unit */
  length(fileUnits: number): string;
  draw(overlay: Overlay): void;
}

/** Several ways to do what was asked, one of them in view; none is kept until it is accepted. */
export interface Offer {
  /** each way in words, with its cost */
  choices: readonly string[];
  chosen: number;
  choose(index: number): void;
  accept(): void;
}

/**
 * A tool in the left column: a state machine fed with hits. `click` follows a press without a drag; a drag goes to
 * the tool only when it wants the place it began on, else it turns the view.
 */
export interface Tool {
  readonly name: string;
  /** what a press, a drag and the held keys do now, for the tool's card */
  hint(): string;
  hover(hit: Hit | null): void;
  wantsDrag(hit: Hit, press: Press): boolean;
  click(hit: Hit, press: Press): void;
  dragStart(hit: Hit, press: Press): void;
  drag(hit: Hit): void;
  dragEnd(): void;
  /** Enter: finish what is open. True when there was something. */
  finish(): boolean;
  /** Esc, another tool, a lost pointer: lets go. True when there was something. */
  cancel(): boolean;
  /** Digits typed while a drag is open, in place of how far the pointer went; null when the drag leads again. */
  typed?(value: number | null): void;
  /** What is offered now, for the tool's card. */
  offer?(): Offer | null;
  /** The card's settings have changed while something is open. */
  settingsChanged?(): void;
  /** Backspace: one step back inside the tool. True when there was something. */
  stepBack(): boolean;
}
