/** Tells whoever watches: `watch` as React's external stores want it, `tell` with what there is to say. */
export class Watched<T extends unknown[] = []> {
  private watchers = new Set<(...said: T) => void>();

  readonly watch = (watcher: (...said: T) => void) => {
    this.watchers.add(watcher);
    return () => this.watchers.delete(watcher);
  };

  tell(...said: T) {
    this.watchers.forEach((watcher) => watcher(...said));
  }
}
