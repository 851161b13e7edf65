import type { PageId } from '@kite-trail/core/lesson/ids';

/** How much of a take was on which page, in samples. */
export class PageTime {
  private sinceSamples = 0;
  private readonly before = new Map<PageId, number>();

  /** @param page the one it begins on */
  constructor(private page: PageId) {}

  turned(page: PageId, atSamples: number): void {
    this.before.set(this.page, this.shownFor(atSamples));
    this.page = page;
    this.sinceSamples = atSamples;
  }

  /** Of the page that is shown. */
  shownFor(nowSamples: number): number {
    return (this.before.get(this.page) ?? 0) + nowSamples - this.sinceSamples;
  }
}
