import { ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { type Combination, combinationTable, type CombinationCell, keysHaving } from '@ivory/core';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { words } from '../../words/en.ts';

/** An option by which a product varies. */
export interface Axis {
  readonly key: string;
  readonly name: string;
}

/** Combinations that would be made, as a table with a box for each: one is left out by its box, a row, a column, or by values. */
@Component({
  selector: 'ivory-combinations',
  imports: [FormsModule, NzButtonModule, NzSelectModule, SelectLabel],
  templateUrl: './combinations.html',
  styleUrl: './combinations.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Combinations {
  readonly axes = input.required<readonly Axis[]>();
  readonly present = input.required<readonly Combination[]>();
  /** All that the typed values make, also what is left out. */
  readonly made = input.required<readonly Combination[]>();
  /** Keys of those that are left out. */
  readonly leftOut = input.required<ReadonlySet<string>>();
  readonly changed = output<ReadonlySet<string>>();

  protected readonly words = words.variants;
  private readonly options = computed(() => this.axes().map(({ key }) => key));
  protected readonly table = computed(() => combinationTable(this.present(), this.made(), this.options()));
  protected readonly down = computed(() => this.axes().slice(0, -1));
  /** Values that can be chosen together, by their option. */
  protected readonly values = computed(() =>
    this.axes().flatMap(({ key, name }) =>
      [...new Set(this.made().flatMap((one) => one.get(key) ?? []))].map((value) => ({
        key: JSON.stringify([key, value]),
        name: `${name}: ${value}`,
      })),
    ),
  );
  protected readonly chosen = signal<readonly string[]>([]);
  /** What has all of the chosen values. */
  private readonly meant = computed(() =>
    keysHaving(this.made(), this.options(), new Map(this.chosen().map((key) => JSON.parse(key) as [string, string]))),
  );

  protected isIn({ key }: CombinationCell): boolean {
    return !this.leftOut().has(key);
  }

  protected column(at: number): CombinationCell[] {
    return this.table().rows.flatMap(({ cells }) => cells[at] ?? []);
  }

  /** Leaves all of these out where all were in or some are, and takes them in where none is. */
  protected turn(cells: readonly CombinationCell[]): void {
    const keys = cells.filter(({ state }) => state === 'made').map(({ key }) => key);
    this.set(keys, !keys.some((key) => !this.leftOut().has(key)));
  }

  protected setMeant(isIn: boolean): void {
    this.set([...this.meant()], isIn);
  }

  private set(keys: Iterable<string>, isIn: boolean): void {
    const out = new Set(this.leftOut());
    for (const key of keys) {
      if (isIn) out.delete(key);
      else out.add(key);
    }
    this.changed.emit(out);
  }
}
