import { ChangeDetectionStrategy, Component, computed, ElementRef, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { words } from '../../words/en.ts';
import { whole } from '../../words/numbers.ts';
import { cellsIn, type Chosen } from '../cells/chosen.ts';
import { replaceIn } from './replaceIn.ts';
import { type CellText } from '../cells/cellBlocks.ts';

/** Finds words in the chosen cells and puts others in their place; says beforehand in how many. */
@Component({
  selector: 'ivory-find-replace',
  imports: [FormsModule, NzButtonModule],
  templateUrl: './findReplace.html',
  styles: `
    :host {
      display: flex;
      gap: 10px;
      align-items: center;
      flex-wrap: wrap;
      padding: 6px 12px;
      background: var(--ground);
      border-top: 1px solid #cbbf9f;
    }
    input[type='text'] {
      width: 150px;
      padding: 2px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
    }
    label {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
    output {
      flex: 1;
      min-width: 140px;
    }
  `,
  host: { role: 'search', '(keydown.escape)': 'done.emit()' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FindReplace {
  readonly chosen = input<Chosen>();
  readonly replaced = output<readonly CellText[]>();
  readonly done = output();

  protected readonly words = words;
  protected readonly find = signal('');
  protected readonly by = signal('');
  protected readonly exactly = signal(false);
  protected readonly wholeWords = signal(false);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);

  protected readonly found = computed(() => {
    const chosen = this.chosen();
    const find = this.find();
    if (!chosen || find === '') return undefined;
    return replaceIn(chosen, { find, by: this.by(), exactly: this.exactly(), wholeWords: this.wholeWords() });
  });
  protected readonly says = computed(() => {
    const [chosen, found] = [this.chosen(), this.found()];
    if (!chosen) return words.replace.choose;
    const cells = whole(cellsIn(chosen));
    if (!found) return words.replace.in(cells);
    return words.replace.found(whole(found.times), whole(found.cells.length), cells);
  });

  constructor() {
    setTimeout(() => this.host.nativeElement.querySelector('input')?.focus());
  }

  protected go(): void {
    const cells = this.found()?.cells ?? [];
    if (cells.length > 0) this.replaced.emit(cells);
  }
}
