import { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, type ElementRef, input, output, viewChild } from '@angular/core';
import { type AnswerOf, type calls } from '@ivory/contract';
import { Reordering } from '../keys/reordering.ts';
import { MoveButtons } from '../theme/moveButtons.ts';
import { words } from '../words/en.ts';

type Product = AnswerOf<typeof calls.getThing>['products'][number];

/** Products in an order that is given by hand: dragged, moved by key, taken out, and added by code. */
@Component({
  selector: 'ivory-product-order',
  imports: [CdkDrag, CdkDropList, MoveButtons],
  template: `
    <ol cdkDropList [attr.aria-label]="label()" (cdkDropListDropped)="dropped($event)">
      @for (one of products(); track one.id; let i = $index) {
        <li cdkDrag tabindex="0" (keydown)="key(i, $event)">
          <span class="code">{{ one.code }}</span>
          <span class="name">{{ one.name }}</span>
          <ivory-move-buttons
            [earlier]="words.folio.up(one.name)"
            [later]="words.folio.down(one.name)"
            [takeOut]="words.folio.take(one.name)"
            [isFirst]="i === 0"
            [isLast]="i === products().length - 1"
            (moved)="move(i, i + $event)"
            (taken)="takeOut(i)"
          />
        </li>
      } @empty {
        <li class="soft">{{ empty() }}</li>
      }
    </ol>
    <form (submit)="$event.preventDefault(); add()">
      <input #code autocomplete="off" [placeholder]="words.folio.firstAdd" [attr.aria-label]="words.folio.firstAdd" />
      <button type="submit">{{ words.folio.add }}</button>
    </form>
  `,
  styles: `
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      gap: 8px;
      align-items: baseline;
      padding: 2px 0;
      border-bottom: 1px solid var(--rule);
      background: var(--sheet);
    }
    .code {
      width: 110px;
      color: var(--soft-ink);
    }
    .name {
      flex: 1;
      font-family: var(--serif);
    }
    form button {
      border: 0;
      background: none;
      color: var(--active);
      cursor: pointer;
    }
    form {
      display: flex;
      gap: 6px;
      padding-top: 4px;
    }
    input {
      width: 180px;
      padding: 2px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProductOrder extends Reordering {
  readonly label = input.required<string>();
  /** What is said while there is none. */
  readonly empty = input('');
  readonly products = input.required<readonly Product[]>();
  /** The codes in their new order, divided by `|`. */
  readonly changed = output<string>();

  protected readonly words = words;
  private readonly code = viewChild.required<ElementRef<HTMLInputElement>>('code');

  protected add(): void {
    const field = this.code().nativeElement;
    const code = field.value.trim();
    if (code === '') return;
    field.value = '';
    this.emit([...this.entries(), code]);
  }

  protected override entries(): string[] {
    return this.products().map(({ code }) => code);
  }

  protected override emit(codes: readonly string[]): void {
    this.changed.emit(codes.join(' | '));
  }
}
