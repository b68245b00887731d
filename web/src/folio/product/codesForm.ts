import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output } from '@angular/core';
import { rxResource, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { type CodesBy, type GivenCode } from '@ivory/contract';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { debounceTime, type Observable } from 'rxjs';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { words } from '../../words/en.ts';
import { whole } from '../../words/numbers.ts';

/** Asks which codes would be given, made so, to what would be made. */
export type SeeCodes = (by: CodesBy | undefined) => Observable<readonly GivenCode[]>;

const SHOWN = 4;
const SETTLE = 250;

/** How the codes of new SKUs are made: by a pattern, or counting up from one; what they come to is seen before. */
@Component({
  selector: 'ivory-codes-form',
  imports: [FormsModule, NzInputModule, NzSelectModule, SelectLabel],
  template: `
    <nz-select
      nzSize="small"
      name="codes-by"
      [nzDropdownMatchSelectWidth]="false"
      [attr.aria-label]="words.codes.how"
      [ngModel]="by()"
      (ngModelChange)="choose($event)"
    >
      @for (option of words.codes.ways; track option.value) {
        <nz-option [nzValue]="option.value" [nzLabel]="option.name" />
      }
    </nz-select>
    <input
      nz-input
      nzSize="small"
      name="codes-text"
      autocomplete="off"
      [attr.aria-label]="words.codes[by()]"
      [placeholder]="words.codes.hints[by()]"
      [ngModel]="text()"
      (ngModelChange)="write($event)"
    />
    @if (problem(); as problem) {
      <span class="marked-stop" role="alert">{{ problem }}</span>
    } @else if (codes().length > 0) {
      <span role="status">
        {{ shown() }}
        @if (skipped() > 0) {
          <span class="marked-caution">{{ words.codes.skipped(skipped(), whole(skipped()), firstSkipped()) }}</span>
        }
      </span>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      align-items: center;
    }
    input {
      width: 210px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CodesForm {
  /** A preview of the codes to be made; undefined while there is nothing to make. */
  readonly see = input<SeeCodes | undefined>();
  /** The pattern that codes are made by where nothing is said. */
  readonly pattern = input('{base}');
  readonly chosen = output<CodesBy | undefined>();

  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly by = linkedSignal<CodesBy['by']>(() => 'pattern');
  protected readonly text = linkedSignal<string>(() => this.pattern());
  private readonly says = computed((): CodesBy | undefined => {
    const text = this.text().trim();
    if (this.by() === 'counting') return text === '' ? undefined : { by: 'counting', from: text };
    return text === '' || text === this.pattern() ? undefined : { by: 'pattern', pattern: text };
  });
  private readonly asked = toSignal(
    toObservable(computed(() => (this.see() ? { see: this.see()!, by: this.says() } : undefined))).pipe(
      debounceTime(SETTLE),
    ),
  );
  private readonly seen = rxResource({
    params: () => this.asked(),
    stream: ({ params: { see, by } }) => see(by),
  });
  protected readonly problem = computed(() => this.seen.error()?.message);
  protected readonly codes = computed(() => (this.asked() && this.seen.hasValue() ? this.seen.value() : []));
  private readonly stood = computed(() => this.codes().filter(({ instead }) => instead !== null));
  protected readonly skipped = computed(() => this.stood().length);
  protected readonly firstSkipped = computed(() => this.stood()[0]?.instead ?? '');
  protected readonly shown = computed(() => {
    const codes = this.codes().map(({ code }) => code);
    return words.codes.shown(codes.slice(0, SHOWN).join(', '), codes.length > SHOWN ? whole(codes.length - SHOWN) : '');
  });

  protected choose(by: CodesBy['by']): void {
    this.by.set(by);
    this.text.set(by === 'pattern' ? this.pattern() : '');
    this.chosen.emit(this.says());
  }

  protected write(text: string): void {
    this.text.set(text);
    this.chosen.emit(this.says());
  }
}
