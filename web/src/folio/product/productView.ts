import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type AnswerOf, type calls } from '@ivory/contract';
import {
  type Asking,
  type FieldKey,
  type FieldValue,
  htmlOf,
  money,
  plainText,
  showMoney,
  showValue,
} from '@ivory/core';
import { type ThingRows } from '../../lists/thingRows.ts';
import { valueInHand } from '../../sheet/rows/proposed.ts';
import { words } from '../../words/en.ts';
import { sellingSentence } from '../../words/selling.en.ts';
import { type Picture } from '../../pictures/pictureOrder.ts';

/** A product as shoppers will read it: what has landed, with what the proof in hand makes of it. */
@Component({
  selector: 'ivory-product-view',
  template: `
    <h2>{{ words.folio.view }}</h2>
    <div class="shop-page">
      @if (pictures()[0]; as face) {
        <img [src]="'/pictures/' + face.key + '.webp'" [alt]="face.alternative ?? name()" width="280" height="280" />
      } @else {
        <p class="no-picture soft">{{ words.folio.noPicture }}</p>
      }
      <h3>{{ name() }}</h3>
      <p class="soft">{{ brand() }}</p>
      <p>
        <strong class="number">{{ price() }}</strong>
      </p>
      @for (text of texts('summary'); track $index) {
        <p>{{ text }}</p>
      }
      @for (note of notes(); track note) {
        <p class="note">{{ note }}</p>
      }
      @if (points().length > 0) {
        <ul>
          @for (point of points(); track point) {
            <li>{{ point }}</li>
          }
        </ul>
      }
      <div class="rich" [innerHTML]="html()"></div>
      @if (attributes().length > 0) {
        <table>
          @for (one of attributes(); track one.name) {
            <tr>
              <th scope="row">{{ one.name }}</th>
              <td>{{ one.value }}</td>
            </tr>
          }
        </table>
      }
    </div>
    @if (sentences().length > 0) {
      <h2>{{ words.folio.canDo }}</h2>
      @for (sentence of sentences(); track sentence.text) {
        <p>
          {{ sentence.text }}
          @if (sentences().length > 1) {
            <span class="soft">{{ words.folio.ofSkus(sentence.codes) }}</span>
          }
        </p>
      }
    }
    <h2>{{ words.folio.result }}</h2>
    <div class="result">
      <p class="address">{{ address() }}</p>
      <p class="title">{{ title() }}</p>
      <p>{{ description() }}</p>
    </div>
    <p class="soft">{{ words.folio.lengths(title().length, description().length) }}</p>
  `,
  styleUrl: '../folio.less',
  styles: `
    :host {
      display: block;
    }
    img,
    .no-picture {
      display: block;
      width: 100%;
      height: auto;
      aspect-ratio: 1;
      margin: 0 0 8px;
      border: 1px solid var(--rule);
      background: #fff;
    }
    .no-picture {
      display: grid;
      place-items: center;
    }
    .rich ::ng-deep img {
      max-width: 100%;
    }
    .note {
      padding: 4px 8px;
      border-left: 3px solid var(--caution);
    }
    th {
      padding-right: 12px;
      text-align: left;
      font-weight: normal;
      color: var(--soft-ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProductView {
  readonly values = input.required<ReadonlyMap<FieldKey, FieldValue>>();
  readonly asking = input.required<Asking>();
  readonly pictures = input.required<readonly Picture[]>();
  readonly variants = input.required<ThingRows | undefined>();
  readonly selling = input.required<AnswerOf<typeof calls.getProduct>['selling']>();
  readonly shop = input.required<{ readonly name: string; readonly storefront: string }>();

  protected readonly words = words;
  protected readonly name = computed(() => this.values().get('name') ?? '');
  protected readonly brand = computed(() => this.shown('brand'));
  protected readonly price = computed(() => {
    const prices = (this.variants()?.rows ?? []).flatMap((row) => {
      const price = valueInHand(row, 'price');
      return price == null ? [] : [BigInt(price)];
    });
    if (prices.length === 0) return words.folio.noPrice;
    const [least, most] = [prices, prices].map((all, i) => all.reduce((a, b) => ((i === 0 ? a < b : a > b) ? a : b)));
    const show = (price: bigint) => showMoney(money(price), this.asking().names.currency);
    return least === most ? show(least!) : `${show(least!)} – ${show(most!)}`;
  });
  protected readonly points = computed(() => (this.values().get('points') ?? '').split('\n').filter(Boolean));
  protected readonly notes = computed(() =>
    (['announcement', 'boughtNote', 'shopperNote', 'hazard'] as const).flatMap((key) => this.values().get(key) ?? []),
  );
  protected readonly attributes = computed(() =>
    this.asking()
      .register.goods.filter(({ own, shopperSees }) => own?.of === 'attribute' && shopperSees)
      .flatMap((field) => {
        const value = this.shown(field.key);
        return value === '' ? [] : [{ name: field.name, value }];
      }),
  );
  /** What shoppers can do with each SKU, said once for those that are alike. */
  protected readonly sentences = computed(() => {
    const found = new Map<string, string[]>();
    for (const one of this.selling()) {
      const text = sellingSentence(one);
      found.set(text, [...(found.get(text) ?? []), one.code]);
    }
    return [...found].map(([text, codes]) => ({ text, codes: codes.slice(0, 6) }));
  });
  protected readonly title = computed(
    () => this.values().get('pageTitle') ?? [this.name(), this.brand(), this.shop().name].filter(Boolean).join(' – '),
  );
  protected readonly description = computed(
    () =>
      this.values().get('pageDescription') ??
      plainText(this.values().get('summary') ?? this.values().get('description') ?? '')
        .replace(/\s+/g, ' ')
        .trim()
        .slice(0, 155),
  );
  protected readonly address = computed(() => `${this.shop().storefront}/products/${this.values().get('slug') ?? ''}`);

  /** Cleaned by the server, and once more by Angular. */
  protected readonly html = computed(() => htmlOf(this.values().get('description') ?? ''));

  private shown(key: FieldKey): string {
    const field = this.asking().register.find(key);
    return field ? showValue(field, this.values().get(key) ?? null, this.asking()) : '';
  }

  /** The paragraphs of a text. */
  protected texts(key: FieldKey): string[] {
    return (this.values().get(key) ?? '').split(/\n\s*\n/).filter(Boolean);
  }
}
