/** Runs what it is given one after another, each when the one before has come to its end; at once where nothing is under way. */
export class InTurn {
  private waiting: (() => unknown)[] = [];
  private under = false;

  /** Whether something is under way, so that what is given now has to wait. */
  get busy(): boolean {
    return this.under;
  }

  /** What goes wrong in one is its own matter; the next begins all the same. */
  readonly run = (task: () => unknown): void => {
    this.waiting.push(task);
    if (!this.under) this.next();
  };

  private next(): void {
    for (let task = this.waiting.shift(); task; task = this.waiting.shift()) {
      const came = task();
      if (!(came instanceof Promise)) continue;
      this.under = true;
      const on = () => {
        this.under = false;
        this.next();
      };
      void came.then(on, on);
      return;
    }
  }
}
