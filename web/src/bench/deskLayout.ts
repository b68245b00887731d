import { ChangeDetectionStrategy, Component, computed, input, linkedSignal, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { type Register } from '@ivory/core';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../look/selectLabel.ts';
import { type Desk } from '../sheet/columns.ts';
import { keepNamed, type Layout, namedLayouts, ownLayout } from '../sheet/layout.ts';
import { words } from '../words/en.ts';

/** Which columns a desk shows: chosen one by one, or as they were kept under a name. */
@Component({
  selector: 'ivory-desk-layout',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  templateUrl: './deskLayout.html',
  styles: `
    :host {
      display: flex;
      gap: 6px 14px;
      align-items: center;
      flex-wrap: wrap;
      padding: 6px 12px;
      background: var(--ground);
      border-bottom: 1px solid var(--rule);
    }
    nz-select {
      min-width: 200px;
    }
    input[type='number'] {
      width: 52px;
    }
    input[type='text'] {
      width: 130px;
    }
    input[type='number'],
    input[type='text'] {
      padding: 2px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
    }
    label,
    .kept,
    form {
      display: inline-flex;
      gap: 6px;
      align-items: center;
    }
    .spread {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class DeskLayout {
  readonly desk = input.required<Desk>();
  readonly register = input.required<Register>();
  readonly layout = input.required<Layout>();
  readonly changed = output<Layout>();
  readonly done = output();

  protected readonly words = words;
  protected readonly fields = computed(() => this.register().goods.filter(({ apart }) => !apart));
  protected readonly kept = linkedSignal(() => namedLayouts(this.desk(), this.register()));
  protected readonly name = signal('');
  /** Whether the fields to choose from are listed: they are from the first, as most come for one of them. */
  protected readonly listed = signal(true);

  protected own(): void {
    this.changed.emit(ownLayout(this.desk(), this.register()));
  }

  /** Keeps the layout under the name; one of the same name is taken over. */
  protected keep(event: Event): void {
    event.preventDefault();
    const name = this.name().trim();
    if (name === '') return;
    this.write([...this.kept().filter((one) => one.name !== name), { name, layout: this.layout() }]);
    this.name.set('');
  }

  protected forget(name: string): void {
    this.write(this.kept().filter((one) => one.name !== name));
  }

  private write(layouts: ReturnType<typeof namedLayouts>): void {
    keepNamed(this.desk(), layouts);
    this.kept.set(namedLayouts(this.desk(), this.register()));
  }
}
