/** Does something a while after it was last asked for, once; asked again meanwhile, it is still done once. */
export class Idle {
  private timer: ReturnType<typeof setTimeout> | null = null;

  constructor(
    private readonly afterMs: number,
    private readonly work: () => void,
  ) {}

  ask(): void {
    this.timer ??= setTimeout(() => {
      this.timer = null;
      this.work();
    }, this.afterMs);
  }
  stop(): void {
    if (this.timer) clearTimeout(this.timer);
    this.timer = null;
  }
}
