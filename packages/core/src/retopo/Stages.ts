export interface Stage {
  name: string;
  /** how often it was gone through, and how far the work was at its last start */
  times: number;
}

/** Tells what is being worked on, and how far the whole is. There is no clock in here: whoever listens may hold one. */
export class Stages {
  private readonly done = new Map<string, number>();
  /** where the present part begins in the whole, and how much of it it is */
  share: [number, number] = [0, 1];

  constructor(private readonly tell: (name: string, done: number) => void) {}

  begin(name: string, done: number): void {
    this.done.set(name, (this.done.get(name) ?? 0) + 1);
    this.tell(name, this.share[0] + this.share[1] * done);
  }
  finish(): Stage[] {
    this.tell('Done', 1);
    return [...this.done].map(([name, times]) => ({ name, times }));
  }
}
