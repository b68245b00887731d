import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { Router } from '@angular/router';
import { calls, wireProblemWords } from '@ivory/contract';
import { firstCode, slugOf } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { tap } from 'rxjs';
import { Api } from '../../api/api.ts';
import { ChooseThings } from '../../lists/chooseThings.ts';
import { offered } from '../../lists/offered.ts';
import { Proposing } from '../../state/proposing.ts';
import { NewRows } from './newRows.ts';
import { selectAskingInHand } from '../../state/askingInHand.ts';
import { words } from '../../words/en.ts';

/** A new product: its name and a few optional fields. Its folio opens afterwards for the rest. */
@Component({
  selector: 'ivory-new-product',
  imports: [ChooseThings, NewRows, NzButtonModule],
  templateUrl: './newProduct.html',
  styleUrl: '../folio.less',
  styles: `
    form {
      max-width: 620px;
      padding: 24px 24px 12px;
    }
    .several {
      max-width: none;
      padding: 8px 24px;
    }
    :host {
      display: block;
      overflow: auto;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class NewProduct {
  protected readonly words = words;
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly proposing = inject(Proposing);
  private readonly asking = inject(Store).selectSignal(selectAskingInHand);
  private readonly nameBox = viewChild.required<ElementRef<HTMLInputElement>>('nameBox');

  protected readonly name = signal('');
  protected readonly texts = signal<Readonly<Partial<Record<string, string>>>>({});
  protected readonly sku = signal<Readonly<Partial<Record<string, string>>>>({});
  protected readonly why = signal<readonly string[]>([]);
  protected readonly isMaking = signal(false);
  /** Whether rows for several of them are open. */
  protected readonly several = signal(false);
  protected readonly fields = computed(() =>
    (['category', 'brand', 'supplier'] as const).map((key) => {
      const field = this.asking().register.get(key);
      const all = offered(field, this.asking());
      const chosen = (this.texts()[key] ?? '').split(' | ');
      return {
        key,
        name: field.name,
        offered: all,
        isSeveral: key === 'category',
        ids: all.filter(({ text }) => chosen.includes(text)).map(({ id }) => id),
      };
    }),
  );
  protected readonly address = computed(() => (this.name().trim() === '' ? '' : slugOf(this.name())));
  protected readonly code = computed(() => (this.name().trim() === '' ? '' : firstCode(this.name())));

  constructor() {
    afterNextRender(() => this.nameBox().nativeElement.focus());
  }

  protected choose(key: string, text: string): void {
    this.texts.update((texts) => ({ ...texts, [key]: text }));
  }

  protected ofSku(key: string, text: string): void {
    this.sku.update((texts) => ({ ...texts, [key]: text }));
  }

  protected make(): void {
    if (this.name().trim() === '' || this.isMaking()) return;
    this.isMaking.set(true);
    const filled = (texts: Readonly<Partial<Record<string, string>>>) =>
      Object.fromEntries(Object.entries(texts).filter((entry): entry is [string, string] => (entry[1] ?? '') !== ''));
    const body = { texts: { ...filled(this.texts()), name: this.name() }, sku: filled(this.sku()) };
    let made = '';
    this.proposing.run(
      this.api.call(calls.makeProduct, { body }).pipe(tap(({ product }) => (made = product))),
      () => void this.router.navigate(['/folio', 'product', made]),
      ({ places = [], title }) => {
        this.isMaking.set(false);
        this.why.set(places.length > 0 ? places.map(wireProblemWords) : [title]);
      },
    );
  }
}
