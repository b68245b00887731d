import { inject, Injectable, signal } from '@angular/core';
import { calls, MOST_PASTED_CODES } from '@ivory/contract';
import { fold, type Register } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api, detailsOf, problemHere } from '../api/api.ts';
import { pastedColumn } from '../sheet/cells/blocks.ts';
import { ProblemActions } from '../state/problemActions.ts';
import { SessionActions } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** What a column that was pasted came to. */
export interface Pasted {
  /** What asks for the SKUs that have one of them. */
  readonly question: string;
  readonly codes: number;
  readonly notFound: readonly string[];
}

/**
 * The codes of a column that was copied from a spreadsheet, the first where there are several columns, each once and without its heading;
 * undefined of a text of one line, which is typed text like any other.
 */
export function columnOfCodes(text: string, register: Register): readonly string[] | undefined {
  const all = pastedColumn(text);
  if (all.length < 2) return undefined;
  const codes = isHeading(all[0]!, register) ? all.slice(1) : all;
  return [...new Map(codes.map((code) => [fold(code), code])).values()];
}

/** Whether a text is what codes or GTINs are called. */
const isHeading = (text: string, register: Register): boolean =>
  (['code', 'gtin'] as const)
    .map((key) => register.get(key))
    .some(({ name, alsoCalled }) => [name, ...alsoCalled].some((called) => fold(called) === fold(text)));

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
        this.told.set({ question, codes: codes.length, notFound });
        this.store.dispatch(SessionActions.namesChanged());
        found(question);
      },
      error: (error: unknown) => refuse(detailsOf(error)),
    });
  }
}
