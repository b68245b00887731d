import { inject, Injectable } from '@angular/core';
import { calls } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { Api } from '../api/api.ts';
import { Proposing } from '../state/proposing.ts';
import { words } from '../words/en.ts';
import { type DropPlace } from './dropPlace.ts';

/** What a person does to categories in the spine; all of it goes into the proof in hand. */
@Injectable({ providedIn: 'root' })
export class TreeEdits {
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);

  set(ids: readonly string[], field: FieldKey, text: string): void {
    const edits = ids.map((id) => ({ kind: 'category' as const, id, field, text }));
    this.proposing.run(this.api.call(calls.editCells, { body: { title: words.sheet.edited(edits.length), edits } }));
  }

  move(ids: readonly string[], { into, before }: DropPlace): void {
    const body = { kind: 'category' as const, ids: [...ids], into, before };
    this.proposing.run(this.api.call(calls.moveThings, { body }));
  }

  /** They go; what lies in them goes to `into`, or to what they lie in. */
  remove(ids: readonly string[], into: string | null): void {
    this.proposing.run(this.api.call(calls.removeThings, { body: { kind: 'category', ids: [...ids], into } }));
  }
}
