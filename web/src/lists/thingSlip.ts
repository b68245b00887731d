import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { calls } from '@ivory/contract';
import { editValue, type FieldKey, isEditable, KINDS, type ListKind, shared, showValue, typeOf } from '@ivory/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { PictureOrder } from '../pictures/pictureOrder.ts';
import { proposed, valueInHand } from '../sheet/rows/proposed.ts';
import { type SheetRow } from '../sheet/rows/sheetRows.ts';
import { ValueTable } from '../slip/valueTable.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { AttributeType } from './attributeType.ts';
import { ChooseThings } from './chooseThings.ts';
import { offered, takesSeveral } from './offered.ts';
import { type Thing, type ThingRows } from './thingRows.ts';

/** The thing or things of a list in hand: their fields, and how many goods have them. */
@Component({
  selector: 'ivory-thing-slip',
  imports: [AttributeType, ChooseThings, PictureOrder, RouterLink, ValueTable],
  templateUrl: './thingSlip.html',
  styleUrl: '../slip/slip.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ThingSlip {
  readonly kind = input.required<ListKind>();
  readonly rows = input.required<ThingRows>();
  readonly inHand = input.required<readonly SheetRow[]>();
  readonly edited = output<{ readonly rows: readonly SheetRow[]; readonly key: FieldKey; readonly text: string }>();
  readonly opened = output<string>();

  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly shop = inject(Store).selectSignal(session.selectShop);
  protected readonly whole = whole;
  protected readonly one = computed((): Thing | undefined => {
    const [row, ...more] = this.inHand();
    return row && more.length === 0 ? this.rows().thingOf(row) : undefined;
  });
  /** The thing's own page, where its kind has one. */
  protected readonly page = computed(() => {
    const thing = this.one();
    return thing && KINDS[this.kind()].hasFolio ? ['/folio', this.kind(), thing.id] : undefined;
  });
  /** Which level of the shop's stock places the one in hand is. */
  protected readonly level = computed(() => {
    const [row, ...more] = this.inHand();
    if (this.kind() !== 'stockPlace' || !row || more.length > 0) return undefined;
    const depth = this.rows().depthOf(row);
    return words.lists.level(this.shop()?.placeLevels[depth] ?? '', depth + 1);
  });
  protected readonly title = computed(() => {
    const [row, ...more] = this.inHand();
    if (!row) return KINDS[this.kind()].many;
    return more.length === 0 ? String(row['name'] ?? '') : words.slip.rowsInHand(whole(more.length + 1));
  });
  protected readonly fields = computed(() =>
    this.rows().shownFields.map((field) => {
      const values = shared(this.inHand().map((row) => valueInHand(row, field.key)));
      const value = values.kind === 'same' ? values.value : null;
      const { asking } = this.rows();
      return {
        field,
        key: field.key,
        name: field.name,
        // What is set when a thing is made can be set until it is.
        editable: isEditable(field) || (field.onlyAtCreation && this.one()?.made) || false,
        changed: this.inHand().some((row) => proposed(row, field.key) !== undefined),
        text: editValue(field, value, asking),
        shown: showValue(field, value, asking),
        ids: (value ?? '').split('|').filter(Boolean),
        hint: values.kind === 'differ' ? words.slip.values(values.count) : '',
        offered: offered(field, asking),
        isSeveral: takesSeveral(field),
        isTable: typeOf(field).table !== undefined && values.kind === 'same',
        isWide: (typeOf(field).table?.columns.length ?? 0) > 2,
      };
    }),
  );

  /** The field of a thing that holds its picture, where its kind has one and no page of its own. */
  protected readonly pictureField = computed(() =>
    this.page()
      ? undefined
      : this.rows()
          .asking.register.of(this.kind())
          .find(({ type }) => type === 'picture'),
  );
  private readonly readOne = rxResource({
    params: () => {
      const thing = this.one();
      return this.pictureField() && thing ? { id: thing.id, kind: this.kind(), rows: this.rows() } : undefined;
    },
    stream: ({ params: { id, kind } }) => this.api.call(calls.getThing, { params: { kind, id } }),
  });
  protected readonly picture = computed(() => {
    const field = this.pictureField();
    if (!field || !this.readOne.hasValue()) return undefined;
    const { columns, thing, pending, pictures } = this.readOne.value();
    const proposal = pending.find(({ field: key }) => key === field.key);
    const id = proposal ? proposal.after : thing.values[columns.indexOf(field.key)];
    return { field, pictures: pictures.filter((one) => one.id === id) };
  });

  protected change(key: FieldKey, text: string, before: string): void {
    if (text !== before) this.edited.emit({ rows: this.inHand(), key, text });
  }

  protected back(input: HTMLInputElement, before: string): void {
    input.value = before;
    input.blur();
  }
}
