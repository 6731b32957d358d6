import { useEffect, useSyncExternalStore } from "react";
import { Watched } from "./watched";

/** What was done, the last at the end, and how each is taken back: one list for all pages, told in one place. */
interface Step {
  words: string;
  run: () => unknown;
}

const MOST = 50;

class Undoing {
  private steps: Step[] = [];
  private unders: Step[] = [];
  private shown: Step | null = null;
  private watched = new Watched();

  readonly watch = this.watched.watch;
  readonly next = () => this.shown;

  /** Something was done, or is about to be; gives what takes just this back, once, and what forgets it where it came to nothing. */
  readonly did = (words: string, run: () => unknown): { back: () => void; forget: () => void } => {
    const step = { words, run };
    this.steps = [...this.steps, step].slice(-MOST);
    this.tell();
    return { back: () => this.take(step), forget: () => this.drop(step) };
  };

  /** What a page would take back where nothing was done since it was opened; gives what forgets it. */
  readonly under = (step: Step): (() => void) => {
    this.unders = [...this.unders, step];
    this.tell();
    return () => {
      this.unders = this.unders.filter((one) => one !== step);
      this.tell();
    };
  };

  readonly back = () => {
    if (this.shown) this.take(this.shown);
  };

  private take(step: Step) {
    const there = this.steps.includes(step);
    if (!there && !this.unders.includes(step)) return;
    this.drop(step);
    step.run();
  }

  private drop(step: Step) {
    this.steps = this.steps.filter((one) => one !== step);
    this.tell();
  }

  private tell() {
    this.shown = this.steps.at(-1) ?? this.unders.at(-1) ?? null;
    this.watched.tell();
  }
}

export const undoing = new Undoing();

/** What would be taken back now. */
export const useUndo = () => useSyncExternalStore(undoing.watch, undoing.next);

/** While a page is open: what it would take back of its own past. */
export function useUnder(words: string | null, run: () => unknown) {
  useEffect(() => (words === null ? undefined : undoing.under({ words, run })), [words, run]);
}
