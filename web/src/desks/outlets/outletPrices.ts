import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { calls, type FormulaTrial, type Outlet, type OutletFormula, problemWords } from '@ivory/contract';
import { FORMULA_BASES, type FormulaBase, readValue, showValue } from '@ivory/core';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { Api } from '../../api/api.ts';
import { SelectLabel } from '../../theme/selectLabel.ts';
import { FormulaEffect } from '../../proof/formulaEffect.ts';
import { OpenRows } from '../../question/openRows.ts';
import { Proposing } from '../../state/proposing.ts';
import { selectAskingInHand } from '../../state/askingInHand.ts';
import { shownDays } from '../../words/days.ts';
import { words } from '../../words/en.ts';

/** The price formula of an outlet, and a trial of another formula on all goods before it is proposed. */
@Component({
  selector: 'ivory-outlet-prices',
  imports: [FormsModule, NzButtonModule, NzInputModule, NzSelectModule, SelectLabel, FormulaEffect],
  templateUrl: './outletPrices.html',
  styleUrl: './outletPrices.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OutletPrices {
  readonly outlet = input.required<Outlet>();
  readonly formulas = input.required<readonly OutletFormula[]>();
  protected readonly words = words.outlets.prices;
  protected readonly bases = FORMULA_BASES;
  private readonly api = inject(Api);
  private readonly opener = inject(OpenRows);
  private readonly proposing = inject(Proposing);
  private readonly asking = inject(Store).selectSignal(selectAskingInHand);

  protected readonly isOpen = signal(false);
  /** The kept formula that is taken up; what is typed may be another. */
  protected readonly taken = linkedSignal<OutletFormula | null>(() => this.outlet().formula);
  protected readonly text = linkedSignal(() => this.taken()?.formula ?? '');
  protected readonly basedOn = linkedSignal<FormulaBase>(() => this.taken()?.basedOn ?? 'current price');
  protected readonly name = linkedSignal(() => this.taken()?.name ?? '');

  private readonly read = computed(() => {
    const field = this.asking().register.at('priceFormula', 'formula');
    return field && this.text().trim() !== '' ? { field, result: readValue(field, this.text(), this.asking()) } : null;
  });
  protected readonly problem = computed(() => {
    const read = this.read();
    return read && !read.result.ok ? problemWords(read.result.problem) : '';
  });
  /** The formula as it is understood. */
  protected readonly understood = computed(() => {
    const read = this.read();
    return read?.result.ok ? showValue(read.field, read.result.value, this.asking()) : '';
  });

  /** What is tried, once it reads. */
  protected readonly trial = computed((): FormulaTrial | undefined => {
    const formula = this.understood();
    return formula === '' ? undefined : { outlet: this.outlet().id, formula, basedOn: this.basedOn(), question: '' };
  });

  protected readonly said = computed(() => {
    const { formula } = this.outlet();
    return formula === null ? this.words.asInShop : this.words.by(formula.formula, formula.basedOn, formula.name);
  });
  protected readonly days = computed(() => {
    const { formula } = this.outlet();
    return formula && (formula.from !== null || formula.until !== null) ? shownDays(formula.from, formula.until) : '';
  });

  protected open(question: string): void {
    this.opener.byQuestion(question, '/prices');
  }

  /** Proposes that the outlet asks the shop's prices, or those of the typed formula, which is made or changed with it. */
  protected propose(how: 'formula' | 'shop'): void {
    const { id, name: outlet } = this.outlet();
    const name = how === 'shop' ? '' : this.name().trim() || this.understood();
    const assign = () => {
      const edit = { kind: 'outlet' as const, id, field: 'formula' as const, text: name };
      const title = how === 'shop' ? this.words.titleShop(outlet) : this.words.title(outlet, name);
      const changes = [...(how === 'shop' ? [] : this.changesOfKept(name)), edit];
      this.proposing.run(this.api.call(calls.editCells, { body: { title, edits: changes } }));
    };
    if (how === 'shop' || this.kept(name)) return assign();
    const thing = { name, formula: this.understood(), basedOn: this.basedOn() };
    const body = { kind: 'priceFormula' as const, things: [thing] };
    this.proposing.run(this.api.call(calls.makeThings, { body }), assign);
  }

  private kept(name: string): OutletFormula | undefined {
    return this.formulas().find((formula) => formula.name === name);
  }

  /** What of a kept formula is typed otherwise. */
  private changesOfKept(name: string) {
    const kept = this.kept(name);
    if (!kept) return [];
    const typed = { formula: this.understood(), basedOn: this.basedOn() };
    return (['formula', 'basedOn'] as const)
      .filter((field) => kept[field] !== typed[field])
      .map((field) => ({ kind: 'priceFormula' as const, id: kept.id, field, text: typed[field] }));
  }
}
