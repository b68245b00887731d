import { CdkContextMenuTrigger, CdkMenu, CdkMenuItem } from '@angular/cdk/menu';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { type Asking, comparisonsOf, type FieldKey, isEditable, quote, typeOf } from '@ivory/core';
import { words } from '../../words/en.ts';
import { type SheetColumn } from './columns.ts';
import { type SheetRow } from '../rows/sheetRows.ts';

/** Where a menu is wanted, in pixels of the page, and for what: a heading, or a cell of a row. */
export interface MenuAt {
  readonly x: number;
  readonly y: number;
  readonly key: FieldKey;
  readonly row?: SheetRow;
  /** It was asked for by key. */
  readonly byKey?: boolean;
}

/** What was chosen from the menu of a sheet. */
export type MenuChoice =
  | { readonly does: 'ask'; readonly condition: string }
  | { readonly does: 'folio' | 'leave out' | 'only these' | 'fill down' | 'fill right' | 'find' | 'rule' }
  | { readonly does: 'sort' | 'then sort'; readonly key: FieldKey; readonly down: boolean }
  | { readonly does: 'lock' | 'take out'; readonly key: FieldKey }
  | { readonly does: 'wrap' }
  /** So many of the first columns stay in sight. */
  | { readonly does: 'stay'; readonly upTo: number };

interface Entry {
  readonly text: string;
  readonly choice: MenuChoice;
  readonly keys?: string;
}

/** What can be done with the rows in hand, with a cell, or with a column: by right click, or by key. */
@Component({
  selector: 'ivory-sheet-menu',
  imports: [CdkContextMenuTrigger, CdkMenu, CdkMenuItem],
  template: `
    <span #trigger [cdkContextMenuTriggerFor]="menu" (cdkContextMenuClosed)="closed.emit()"></span>
    <ng-template #menu>
      <div class="menu" cdkMenu [attr.aria-label]="words.menu.label">
        @for (group of groups(); track $index) {
          <div class="group" role="group">
            @for (entry of group; track entry.text) {
              <button type="button" cdkMenuItem (cdkMenuItemTriggered)="chosen.emit(entry.choice)">
                <span>{{ entry.text }}</span>
                @if (entry.keys) {
                  <kbd>{{ entry.keys }}</kbd>
                }
              </button>
            }
          </div>
        }
      </div>
    </ng-template>
  `,
  styleUrl: './sheetMenu.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SheetMenu {
  readonly asking = input.required<Asking>();
  readonly rows = input.required<readonly SheetRow[]>();
  readonly locked = input<readonly FieldKey[]>([]);
  readonly wraps = input(false);
  readonly columns = input<readonly SheetColumn[]>([]);
  readonly chosen = output<MenuChoice>();
  readonly closed = output();

  protected readonly words = words;
  private readonly at = signal<MenuAt | undefined>(undefined);
  private readonly trigger = viewChild.required<unknown, ElementRef<HTMLElement>>('trigger', { read: ElementRef });

  protected readonly groups = computed((): readonly (readonly Entry[])[] => {
    const at = this.at();
    if (!at) return [];
    return (at.row ? this.ofCell(at.row, at.key) : this.ofHeading(at.key)).filter((group) => group.length > 0);
  });

  open(at: MenuAt): void {
    this.at.set(at);
    // Dispatched as the event itself: a menu opened by a call would be closed by the mouse button's release.
    const button = at.byKey ? 0 : 2;
    const wanted = new MouseEvent('contextmenu', { clientX: at.x, clientY: at.y, button, cancelable: true });
    this.trigger().nativeElement.dispatchEvent(wanted);
  }

  private ofCell(row: SheetRow, key: FieldKey): Entry[][] {
    const say = words.menu;
    const count = this.rows().length;
    const asked = [...new Set<FieldKey>([key, 'brand', 'category', 'supplier'])].flatMap((one) =>
      this.conditionOf(row, one),
    );
    const several = count > 1 ? say.rows(count) : say.row;
    return [
      [
        { text: say.folio, choice: { does: 'folio' }, keys: 'Shift+E' },
        { text: say.rule, choice: { does: 'rule' }, keys: 'R' },
      ],
      asked.flatMap((condition, i) => [
        { text: say.only(condition), choice: { does: 'ask', condition } as const },
        ...(i === 0
          ? [{ text: say.without(condition), choice: { does: 'ask', condition: `not ${condition}` } as const }]
          : []),
      ]),
      [
        { text: say.onlyThese(several), choice: { does: 'only these' } },
        { text: say.leaveOut(several), choice: { does: 'leave out' }, keys: 'Ctrl+Delete' },
      ],
      [
        { text: say.fillDown, choice: { does: 'fill down' }, keys: 'Ctrl+D' },
        { text: say.fillRight, choice: { does: 'fill right' }, keys: 'Ctrl+R' },
        { text: say.find, choice: { does: 'find' }, keys: 'Ctrl+H' },
      ],
    ];
  }

  private ofHeading(key: FieldKey): Entry[][] {
    const say = words.menu;
    const field = this.asking().register.find(key);
    const isLocked = this.locked().includes(key);
    return [
      [
        { text: say.sort(false), choice: { does: 'sort', key, down: false } },
        { text: say.sort(true), choice: { does: 'sort', key, down: true } },
        { text: say.thenSort(false), choice: { does: 'then sort', key, down: false }, keys: say.shiftPress },
        { text: say.thenSort(true), choice: { does: 'then sort', key, down: true } },
      ],
      [
        ...(field && isEditable(field) ? [{ text: say.lock(isLocked), choice: { does: 'lock', key } as const }] : []),
        { text: say.wrap(this.wraps()), choice: { does: 'wrap' } },
        ...this.staying(key),
        { text: say.takeOut, choice: { does: 'take out', key } },
      ],
    ];
  }

  /** The columns up to this one stay in sight, or all are scrolled again; the last one is always scrolled. */
  private staying(key: FieldKey): Entry[] {
    const columns = this.columns();
    const place = columns.findIndex((column) => column.key === key);
    const last = columns.filter(({ stays }) => stays).length - 1;
    const upTo = place === columns.length - 1 ? [] : [place + 1];
    return [...(place === last ? [] : upTo), ...(last >= 0 ? [0] : [])].map((count) => ({
      text: count === 0 ? words.menu.scrollAll : words.menu.stay,
      choice: { does: 'stay', upTo: count },
    }));
  }

  /** The condition that a row's value of a field holds; none where it has several, or is not asked for so. */
  private conditionOf(row: SheetRow, key: FieldKey): string[] {
    const field = this.asking().register.find(key);
    if (!field || row.differing?.[key] || key === 'name') return [];
    const comparisons = comparisonsOf(field);
    const value = row.landed?.[key] ?? null;
    if (value === null) return comparisons.includes('is empty') ? [`${field.name} is empty`] : [];
    const comparison = comparisons.includes('in') ? 'in' : 'is';
    const [first = ''] = typeOf(field).entriesOf?.(value) ?? [value];
    const { show, edit, isNamed } = typeOf(field);
    const text = (isNamed ? show : (edit ?? show))(first, field, this.asking());
    if (text === '' || !comparisons.includes(comparison)) return [];
    return [key === 'category' ? `in ${quote(text)}` : `${field.name} ${comparison} ${quote(text)}`];
  }
}
