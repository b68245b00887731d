import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { calls, type Counts, type RowsOf, type Sort } from '@ivory/contract';
import { type FieldKey } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../theme/selectLabel.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

const DIALECT = 'ivory.takeOut';
interface Dialect {
  readonly separator: 'comma' | 'semicolon' | 'tab';
  readonly decimalSign: '.' | ',';
  readonly encoding: 'utf-8' | 'utf-16le';
  readonly digits: 'plain' | 'text';
}
const USUAL: Dialect = { separator: 'comma', decimalSign: '.', encoding: 'utf-8', digits: 'plain' };

/** Takes the working set out as a file: the columns of the sheet behind the code, in a dialect that is kept in this browser. */
@Component({
  selector: 'ivory-take-out',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  template: `
    <span>{{ words.what[of()](whole(of() === 'SKUs' ? counts().skus : counts().products), names()) }}</span>
    <nz-select
      nzSize="small"
      [nzDropdownMatchSelectWidth]="false"
      [attr.aria-label]="words.of"
      [ngModel]="of()"
      (ngModelChange)="of.set($event)"
    >
      @for (option of words.ofs; track option.value) {
        <nz-option [nzValue]="option.value" [nzLabel]="option.name" />
      }
    </nz-select>
    @for (choice of choices; track choice.key) {
      <nz-select
        nzSize="small"
        [nzDropdownMatchSelectWidth]="false"
        [attr.aria-label]="choice.label"
        [ngModel]="dialect()[choice.key]"
        (ngModelChange)="choose(choice.key, $event)"
      >
        @for (option of choice.options; track option.value) {
          <nz-option [nzValue]="option.value" [nzLabel]="option.name" />
        }
      </nz-select>
    }
    <a nz-button nzType="primary" nzSize="small" download [href]="address()" (click)="done.emit()">{{ words.take }}</a>
    <button nz-button nzSize="small" type="button" (click)="done.emit()">{{ words.close }}</button>
    <span class="soft">{{ words.back }}</span>
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
      padding: 6px 12px;
      background: var(--ground);
      border-bottom: 1px solid var(--rule);
    }
    nz-select {
      min-width: 110px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TakeOut {
  readonly question = input.required<string>();
  readonly sort = input.required<Sort>();
  readonly keys = input.required<readonly FieldKey[]>();
  readonly counts = input.required<Pick<Counts, 'skus' | 'products'>>();
  /** What the rows of the sheet are of: so is the file, until it is chosen otherwise. */
  readonly rowsOf = input<RowsOf>('SKUs');
  readonly done = output();

  protected readonly words = words.takeOut;
  protected readonly whole = whole;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  protected readonly choices = [
    { key: 'separator', label: words.takeOut.separator, options: words.takeOut.separators },
    { key: 'decimalSign', label: words.takeOut.decimalSign, options: words.takeOut.decimalSigns },
    { key: 'encoding', label: words.takeOut.encoding, options: words.takeOut.encodings },
    { key: 'digits', label: words.takeOut.digits, options: words.takeOut.digitsAs },
  ] as const;
  protected readonly dialect = signal<Dialect>(keptDialect());
  protected readonly of = linkedSignal(() => this.rowsOf());
  private readonly fields = computed(() => {
    const { register } = this.asking();
    const chosen = this.keys().flatMap((key) => register.find(key) ?? []);
    return [...new Set([register.get('code'), ...chosen])].filter(
      (field) => this.of() === 'SKUs' || field.kind === 'product' || field.key === 'code',
    );
  });
  protected readonly names = computed(() =>
    this.fields()
      .map(({ name }) => name)
      .join(', '),
  );
  protected readonly address = computed(() => {
    const columns = this.fields().map(({ key }) => key);
    const asked = {
      question: this.question(),
      columns: columns.join(','),
      sort: JSON.stringify(this.sort()),
      of: this.of(),
      ...this.dialect(),
    };
    return `${calls.takeOut.path}?${new URLSearchParams(asked)}`;
  });

  protected choose(key: keyof Dialect, value: string): void {
    this.dialect.update((dialect) => ({ ...dialect, [key]: value }));
    localStorage.setItem(DIALECT, JSON.stringify(this.dialect()));
  }
}

function keptDialect(): Dialect {
  try {
    return { ...USUAL, ...(JSON.parse(localStorage.getItem(DIALECT) ?? '{}') as Partial<Dialect>) };
  } catch {
    return USUAL;
  }
}
