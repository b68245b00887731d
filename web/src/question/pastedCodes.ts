import { inject, Injectable, signal } from '@angular/core';
import { calls, MOST_PASTED_CODES } from '@ivory/contract';
import { fold } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api, detailsOf, problemHere } from '../api/api.ts';
import { pastedRows } from '../sheet/cells/blocks.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { SessionActions } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** What a column that was pasted came to. */
export interface Pasted {
  readonly codes: number;
  readonly notFound: readonly string[];
}

/** Headings that such a column may begin with. */
const HEADINGS = ['code', 'codes', 'sku', 'skus', 'gtin', 'ean'];

/**
 * The codes of a column that was copied from a spreadsheet, the first where there are several columns, each once and without its heading;
 * undefined of a text of one line, which is typed text like any other.
 */
export function columnOfCodes(text: string): readonly string[] | undefined {
  const all = pastedRows(text)
    .map(([first = '']) => first.trim())
    .filter(Boolean);
  if (all.length < 2) return undefined;
  const codes = HEADINGS.includes(fold(all[0]!)) ? all.slice(1) : all;
  return [...new Map(codes.map((code) => [fold(code), code])).values()];
}

/** Makes a working set of a column of codes that was pasted, and remembers which of them no SKU has. */
@Injectable({ providedIn: 'root' })
export class PastedCodes {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly told = signal<Pasted | undefined>(undefined);

  /** `found` gets the question that asks for the SKUs. */
  open(codes: readonly string[], found: (question: string) => void): void {
    const refuse = (problem: ReturnType<typeof detailsOf>) => this.store.dispatch(ProblemActions.show({ problem }));
    if (codes.length > MOST_PASTED_CODES)
      return refuse(problemHere(words.question.tooManyCodes(whole(codes.length), whole(MOST_PASTED_CODES))));
    const title = words.question.pastedCodes(whole(codes.length));
    this.api.call(calls.openList, { body: { title, of: { kind: 'codes', codes: [...codes] } } }).subscribe({
      next: ({ question, notFound }) => {
        this.told.set({ codes: codes.length, notFound });
        this.store.dispatch(SessionActions.namesChanged());
        found(question);
      },
      error: (error: unknown) => refuse(detailsOf(error)),
    });
  }
}
