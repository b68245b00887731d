import { ChangeDetectionStrategy, Component, computed, inject, model } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { calls, type LandingFilter, PROOF_KINDS, wireProblemWords } from '@ivory/contract';
import { isStored, readValue } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api } from '../api/api.ts';
import { SelectLabel } from '../theme/selectLabel.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/** Which landings the journal shows: by words, where they come from, what they changed, of which SKU, and when. */
@Component({
  selector: 'ivory-journal-filter',
  imports: [FormsModule, NzSelectModule, SelectLabel],
  template: `
    <input
      type="search"
      [attr.aria-label]="words.findLanding"
      [placeholder]="words.findLanding"
      [ngModel]="filter().words ?? ''"
      (ngModelChange)="set('words', $event)"
    />
    <nz-select
      nzSize="small"
      nzAllowClear
      [nzPlaceHolder]="words.anySource"
      [attr.aria-label]="words.source"
      [ngModel]="filter().source ?? null"
      (ngModelChange)="set('source', $event ?? '')"
    >
      @for (kind of kinds; track kind) {
        <nz-option [nzValue]="kind" [nzLabel]="words.sources[kind]" />
      }
    </nz-select>
    <nz-select
      nzSize="small"
      nzAllowClear
      [nzPlaceHolder]="words.anybody"
      [attr.aria-label]="words.by"
      [ngModel]="filter().by ?? null"
      (ngModelChange)="set('by', $event ?? '')"
    >
      @for (person of people(); track person) {
        <nz-option [nzValue]="person" [nzLabel]="person" />
      }
    </nz-select>
    <nz-select
      nzSize="small"
      nzAllowClear
      nzShowSearch
      [nzPlaceHolder]="words.anyField"
      [attr.aria-label]="words.ofField"
      [ngModel]="field()"
      (ngModelChange)="setField($event)"
    >
      @for (one of fields(); track one.key) {
        <nz-option [nzValue]="one.key" [nzLabel]="one.name" />
      }
    </nz-select>
    <input
      type="text"
      class="code"
      [attr.aria-label]="words.ofCode"
      [placeholder]="words.ofCode"
      [ngModel]="filter().code ?? ''"
      (ngModelChange)="set('code', $event)"
    />
    <label
      >{{ words.since }}
      <input type="text" class="day" [placeholder]="words.dayLike" #since (change)="setDay('since', since)"
    /></label>
    <label
      >{{ words.until }}
      <input type="text" class="day" [placeholder]="words.dayLike" #until (change)="setDay('until', until)"
    /></label>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 10px;
      align-items: center;
      margin-bottom: 10px;
    }
    input {
      padding: 2px 8px;
      height: 28px;
      box-sizing: border-box;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
      font: inherit;
    }
    .day {
      width: 100px;
    }
    .day[aria-invalid='true'] {
      border-color: var(--stop);
    }
    .code {
      width: 130px;
    }
    nz-select {
      width: 150px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class JournalFilter {
  readonly filter = model<LandingFilter>({});

  protected readonly words = words.journalPage;
  protected readonly kinds = PROOF_KINDS;
  private readonly api = inject(Api);
  private readonly read = rxResource({
    stream: () => this.api.call(calls.listLandingTexts, { query: { field: 'changedBy' } }),
  });
  /** Who landed something of late. */
  protected readonly people = computed(() => (this.read.hasValue() ? this.read.value().texts : []));
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly fields = () => this.asking().register.goods.filter(isStored);
  protected readonly field = () => this.filter().field ?? null;

  protected set(key: 'words' | 'source' | 'code' | 'by', value: string): void {
    const { [key]: _, ...others } = this.filter();
    this.filter.set(value.trim() === '' ? others : { ...others, [key]: value.trim() });
  }

  protected setField(value: string | null): void {
    const { kind: _, field: __, ...others } = this.filter();
    const found = this.fields().find(({ key }) => key === value);
    this.filter.set(found ? { ...others, kind: found.kind, field: found.key } : others);
  }

  /** A day as it is typed anywhere here: `2026-11-27`, `27 Nov 2026`. One that does not read is marked, and asks for nothing. */
  protected setDay(key: 'since' | 'until', input: HTMLInputElement): void {
    const { [key]: _, ...others } = this.filter();
    const read = readValue(this.asking().register.get('changed'), input.value, this.asking());
    input.setCustomValidity(read.ok ? '' : wireProblemWords(read.problem));
    input.setAttribute('aria-invalid', String(!read.ok));
    input.title = input.validationMessage;
    const day = read.ok ? read.value : null;
    this.filter.set(day === null ? others : { ...others, [key]: Number(day) });
  }
}
