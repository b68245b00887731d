import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { type Asking, type Field, type FieldValue, plainText, showValue } from '@ivory/core';
import { words } from '../words/en.ts';

/** The value that a field had at a past moment, to be read. */
@Component({
  selector: 'ivory-stood-value',
  template: `
    @for (picture of pictures(); track picture.id) {
      <img [src]="'/pictures/' + picture.key + '-small.webp'" [alt]="picture.name" width="60" height="60" />
    }
    <p>{{ said() }}</p>
  `,
  styles: `
    p {
      margin: 2px 0;
      white-space: pre-line;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class StoodValue {
  readonly field = input.required<Field>();
  readonly value = input.required<FieldValue>();
  readonly asking = input.required<Asking>();
  /** The products that the value holds. */
  readonly products = input<readonly { readonly name: string }[]>([]);
  /** The pictures that it holds. */
  readonly pictures = input<readonly { readonly id: string; readonly key: string; readonly name: string }[]>([]);

  protected readonly said = computed(() => {
    const [{ type }, value] = [this.field(), this.value()];
    if (value === null) return words.folio.stoodEmpty;
    if (type === 'pictures' || type === 'picture') return '';
    if (type === 'products')
      return this.products()
        .map(({ name }) => name)
        .join(', ');
    return type === 'richText' ? plainText(value).trim() : showValue(this.field(), value, this.asking());
  });
}
