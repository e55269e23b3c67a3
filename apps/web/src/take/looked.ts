/** How long items are looked at, in seconds by their ids: only while the page is in sight. */
export class Looked {
  private readonly ms: Record<string, number>;
  private since: number;

  /** @param before seconds that were counted before the page was loaded */
  constructor(
    before: Readonly<Record<string, number>>,
    private readonly now: () => number = () => performance.now(),
  ) {
    this.ms = Object.fromEntries(Object.entries(before).map(([id, seconds]) => [id, seconds * 1000]));
    this.since = now();
  }

  /** What has passed since the last call was for this item; for none where the page was not looked at. */
  was(item: string | undefined): void {
    const now = this.now();
    if (item !== undefined) this.ms[item] = (this.ms[item] ?? 0) + now - this.since;
    this.since = now;
  }

  get seconds(): Record<string, number> {
    return Object.fromEntries(Object.entries(this.ms).map(([id, ms]) => [id, Math.round(ms / 1000)]));
  }
}
