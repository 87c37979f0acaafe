// A solution of the work against robots: begun early, used once, and made again when it is old.

export const COUNTS_FOR = 25 * 60 * 1000; // milliseconds

type Begun = { at: number; solution: Promise<string> };

export class Solution {
  private begun: Begun | null = null;

  constructor(private readonly solve: () => Promise<string>) {}

  /** The one that was begun, or another where there is none that counts still. */
  get(): Promise<string> {
    if (this.begun && Date.now() - this.begun.at <= COUNTS_FOR) return this.begun.solution;
    const next: Begun = { at: Date.now(), solution: this.solve() };
    this.begun = next;
    // One that could not be fetched is asked for again.
    next.solution.catch(() => {
      if (this.begun === next) this.begun = null;
    });
    return next.solution;
  }

  /** It has been used: the next one is another. */
  renew() {
    this.begun = null;
  }
}
