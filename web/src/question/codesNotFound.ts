import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { PastedCodes } from './pastedCodes.ts';

/** So many codes are named; all of them are copied. */
const NAMED = 12;

/** Which codes of a pasted column no SKU has. */
@Component({
  selector: 'ivory-codes-not-found',
  template: `
    @if (told(); as told) {
      <p class="marked-caution" role="status">
        {{ said() }}
        <button type="button" class="opens" (click)="copy(told.notFound)">
          {{ copied() ? words.copied : words.copyThem }}
        </button>
        <button type="button" class="opens" (click)="close()">{{ words.close }}</button>
      </p>
    }
  `,
  styles: `
    p {
      margin: 0;
      padding: 4px 12px;
    }
    button {
      margin-left: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CodesNotFound {
  /** What is asked now: nothing is told of codes that are not asked for any more. */
  readonly asked = input.required<string>();

  protected readonly words = words.question;
  private readonly pasted = inject(PastedCodes);
  protected readonly told = computed(() => {
    const told = this.pasted.told();
    return told && told.notFound.length > 0 && this.asked().includes(told.question) ? told : undefined;
  });
  protected readonly said = computed(() => {
    const { codes, notFound } = this.told()!;
    const named = notFound.slice(0, NAMED).join(', ');
    const more = notFound.length > NAMED ? whole(notFound.length - NAMED) : '';
    return this.words.notFound(whole(notFound.length), whole(codes), named, more);
  });
  protected readonly copied = signal(false);

  protected copy(codes: readonly string[]): void {
    void navigator.clipboard.writeText(codes.join('\n')).then(() => this.copied.set(true));
  }

  protected close(): void {
    this.copied.set(false);
    this.pasted.told.set(undefined);
  }
}
