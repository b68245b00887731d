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
import { type AnswerOf, calls } from '@ivory/contract';
import { type Field, type FieldKey, isEditable } from '@ivory/core';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api, detailsOf } from '../../api/api.ts';
import { type ThingRows } from '../../lists/thingRows.ts';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { type CellEdits } from '../../sheet/cells/cellBlocks.ts';
import { valueInHand } from '../../sheet/rows/proposed.ts';
import { type SheetRow } from '../../sheet/rows/sheetRows.ts';
import { Proposing } from '../../state/proposing.ts';
import { words } from '../../words/en.ts';
import { type Picture } from '../../pictures/pictureOrder.ts';

/** Which variants something is done to: all, those in hand, or those with a value of an option. */
interface Which {
  readonly key: string;
  readonly name: string;
  readonly rows: readonly SheetRow[];
}

type Counted = AnswerOf<typeof calls.takeSkusAway>;

/** What is done to many variants at once: a value, the next GTINs, a picture; or they are taken away. */
@Component({
  selector: 'ivory-for-variants',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  templateUrl: './forVariants.html',
  styleUrl: './variants.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ForVariants {
  readonly rows = input.required<ThingRows>();
  readonly inHand = input.required<readonly SheetRow[]>();
  readonly options = input.required<readonly Field[]>();
  readonly pictures = input.required<readonly Picture[]>();
  /** The fields of variants that can be given a value. */
  readonly keys = input.required<readonly FieldKey[]>();
  /** What a variant has of an option, by name. */
  readonly nameOf = input.required<(row: SheetRow, option: Field) => string>();
  readonly edited = output<CellEdits>();

  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);

  protected readonly fields = computed(() =>
    this.keys().flatMap((key) => {
      const field = this.rows().fieldOf(key);
      return field && isEditable(field) ? [field] : [];
    }),
  );
  protected readonly which = computed((): readonly Which[] => {
    const { rows } = this.rows();
    const inHand = this.inHand();
    const hand: Which = { key: 'hand', name: words.variants.inHand(inHand.length), rows: inHand };
    const byValue = this.options().flatMap((option) => {
      const byName = new Map<string, SheetRow[]>();
      for (const row of rows) {
        const name = this.nameOf()(row, option);
        if (name !== '') byName.set(name, [...(byName.get(name) ?? []), row]);
      }
      return [...byName].map(([name, of]): Which => ({
        key: `${option.key} ${name}`,
        name: words.variants.allOf(name, of.length),
        rows: of,
      }));
    });
    return [
      { key: 'all', name: words.variants.all(rows.length), rows },
      ...(inHand.length > 0 ? [hand] : []),
      ...byValue,
    ];
  });
  /** Rows that are chosen in the grid are what is meant, until something else is said. */
  protected readonly chosen = linkedSignal<string, string>({
    source: () => (this.inHand().length > 1 ? 'hand' : 'all'),
    computation: (suggested, previous) =>
      previous && previous.value !== 'hand' && previous.value !== 'all' ? previous.value : suggested,
  });
  protected readonly meant = computed(
    () => this.which().find(({ key }) => key === this.chosen())?.rows ?? this.rows().rows,
  );
  protected readonly key = signal<FieldKey>('price');
  protected readonly text = signal('');
  /** What would go, while it is asked. */
  protected readonly going = signal<Counted | undefined>(undefined);

  protected put(): void {
    if (this.text().trim() === '') return;
    this.give(this.key(), () => this.text());
    this.text.set('');
  }

  /** Gives each variant that is meant a text for a field; undefined leaves it alone. */
  private give(key: FieldKey, textOf: (row: SheetRow, place: number) => string | undefined): void {
    const cells = this.meant().flatMap((row, place) => {
      const text = textOf(row, place);
      return text === undefined ? [] : [{ row, key, text }];
    });
    if (cells.length > 0) this.edited.emit({ how: 'filled', of: this.rows(), cells });
  }

  /** Whether all that are meant have a picture of their own, and this one. */
  protected hasPicture({ id }: Picture): boolean {
    return this.meant().every((row) => valueInHand(row, 'ownPicture') === id);
  }

  protected setPicture(picture: Picture): void {
    const text = this.hasPicture(picture) ? '' : picture.id;
    this.give('ownPicture', () => text);
  }

  /** Variants without a GTIN get the next of the shop's own. */
  protected nextGtins(): void {
    const without = this.meant().filter((row) => valueInHand(row, 'gtin') == null);
    if (without.length === 0) return;
    this.api.call(calls.nextGtins, { body: { count: without.length } }).subscribe({
      next: ({ gtins }) => this.give('gtin', (row) => gtins[without.indexOf(row)]),
      error: (error: unknown) => this.proposing.refuse(detailsOf(error)),
    });
  }

  private get skus(): string[] {
    return this.meant().flatMap(({ id }) => id ?? []);
  }

  protected askAway(): void {
    this.api.call(calls.takeSkusAway, { body: { skus: this.skus, propose: false } }).subscribe({
      next: (counted) => this.going.set(counted),
      error: (error: unknown) => this.proposing.refuse(detailsOf(error)),
    });
  }

  protected takeAway(keepStocked: boolean): void {
    const { skus } = this;
    this.proposing.run(this.api.call(calls.takeSkusAway, { body: { skus, keepStocked } }), () =>
      this.going.set(undefined),
    );
  }
}
