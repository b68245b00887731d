/** Reports how far a piece of work is, in rows done of all rows. Throws when the work was asked to stop. */
export type ReportRows = (done: number, total: number) => Promise<void>;

/**
 * Progress by rows of work that goes over its rows several times, in passes of unlike cost: `weight` is what all passes come to,
 * in rows. Reports 0 when it is made to begin, and never more rows than there are.
 */
export class Meter {
  private done = 0;

  constructor(
    private readonly rows: number,
    private readonly weight: number,
    private readonly report: ReportRows | undefined,
  ) {}

  begin(): Promise<void> {
    return this.did(0);
  }

  /** Notes that a pass went over so many rows more. */
  async did(rows: number): Promise<void> {
    this.done += rows;
    const share = this.weight === 0 ? 1 : Math.min(1, this.done / this.weight);
    await this.report?.(Math.floor(share * this.rows), this.rows);
  }
}
