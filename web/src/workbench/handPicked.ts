import { inject, Injectable } from '@angular/core';
import { calls } from '@ivory/contract';
import { byHand, leavingOut, printQuestion, type Question, readQuestion, withHand } from '@ivory/core';
import { Store } from '@ngrx/store';
import { firstValueFrom } from 'rxjs';
import { Api, detailsOf, problemHere } from '../api/api.ts';
import { type SheetRow } from '../sheet/rows/sheetRows.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';

/** So many SKUs are put in or left out by hand; what more have in common is asked for. */
const MOST_BY_HAND = 100;

/** Rows of the sheet that are left out of the working set by hand, or become all of it. */
@Injectable({ providedIn: 'root' })
export class HandPicked {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly set = this.store.selectSignal(workingSet.selectWorkingSetState);

  leaveOut(rows: readonly SheetRow[]): Promise<void> {
    return this.with(rows, (asked, codes) => {
      const set = leavingOut(byHand(asked), codes);
      return set.leftOut.length + set.putIn.length > MOST_BY_HAND ? undefined : withHand(set);
    });
  }

  onlyThese(rows: readonly SheetRow[]): Promise<void> {
    return this.with(rows, (_asked, codes) => ({ kind: 'compare', field: 'code', comparison: 'is', values: codes }));
  }

  private async with(
    rows: readonly SheetRow[],
    makes: (asked: Question, codes: readonly string[]) => Question | undefined,
  ): Promise<void> {
    const { question } = this.set();
    const read = readQuestion(question, this.asking());
    try {
      const codes = rows.length > MOST_BY_HAND ? undefined : await this.codesOf(rows, question);
      const made = read.ok && codes && codes.length <= MOST_BY_HAND ? makes(read.value.question, codes) : undefined;
      this.store.dispatch(
        made
          ? WorkingSetActions.ask({ question: printQuestion(made, this.asking()) })
          : ProblemActions.show({ problem: problemHere(words.sheet.tooManyByHand) }),
      );
    } catch (error) {
      this.store.dispatch(ProblemActions.show({ problem: detailsOf(error) }));
    }
  }

  /** The codes of the SKUs that rows stand for. */
  private async codesOf(rows: readonly SheetRow[], question: string): Promise<string[]> {
    const codes: string[] = [];
    for (const row of rows) {
      if (!row.several) codes.push(...(row.landed?.code ? [row.landed.code] : []));
      else {
        const body = { question, product: row.productId!, columns: ['code' as const] };
        const read = await firstValueFrom(this.api.call(calls.listVariants, { body }));
        const at = read.columns.indexOf('code');
        // Ids of SKU and product and the key of the picture stand before the columns.
        codes.push(...read.rows.flatMap((values) => values[at + 3] ?? []));
      }
      if (codes.length > MOST_BY_HAND) break;
    }
    return [...new Set(codes)];
  }
}
