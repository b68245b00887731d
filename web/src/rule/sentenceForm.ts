import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { problemWords } from '@ivory/contract';
import {
  type FieldKey,
  isSeveral,
  plainPercent,
  type Said,
  type Sentence,
  showValue,
  type SlotProblems,
} from '@ivory/core';
import { amountOrShare, partsOfSentence, shareOf } from '@ivory/core/rules';
import { Store } from '@ngrx/store';
import { NzInputModule } from 'ng-zorro-antd/input';
import { NzSelectModule } from 'ng-zorro-antd/select';
import { SelectLabel } from '../theme/selectLabel.ts';
import { session } from '../state/session.ts';
import { words } from '../words/en.ts';

/** A sentence of a rule with an editor in the place of its field and each of its slots; what is wrong stands beneath it. */
@Component({
  selector: 'ivory-sentence-form',
  imports: [FormsModule, NzInputModule, NzSelectModule, SelectLabel],
  templateUrl: './sentenceForm.html',
  styleUrl: './sentenceForm.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SentenceForm {
  readonly of = input.required<Sentence>();
  readonly said = input.required<Said>();
  readonly problems = input<SlotProblems>({});
  /** Its first words are said by a select before it. */
  readonly withoutVerb = input(false);
  /** The slot whose value comes from a table. */
  readonly fromTable = input<string | undefined>();
  /** What its editors are told apart by. */
  readonly name = input.required<string>();
  readonly changed = output<Said>();

  protected readonly words = words.rule;
  private readonly asking = inject(Store).selectSignal(session.selectAsking);
  private readonly target = computed(() => this.asking().register.find(this.said().field));
  protected readonly fields = computed(() => this.asking().register.goods.filter((field) => this.of().takes(field)));

  protected readonly parts = computed(() => {
    const [first, ...rest] = partsOfSentence(this.of().sentence);
    const parts = this.withoutVerb() && first && 'words' in first ? rest : [first!, ...rest];
    return parts.map((part) =>
      'words' in part ? part : part.slot === 'field' ? { field: true } : this.slot(part.slot),
    );
  });

  protected readonly wrong = computed(() =>
    Object.entries(this.problems())
      // What nobody has typed yet is no mistake; its place says what may stand there.
      .filter(([, { code }]) => code !== 'slot-empty')
      .map(([, problem]) => problemWords(problem)),
  );

  /** An amount or a share is said once more as it was understood, so that neither is taken for the other. */
  private understood(name: string, text: string): string {
    const [slot, target] = [this.of().slots[name], this.target()];
    if (slot !== amountOrShare || !target) return '';
    const read = slot.read(text, target, this.asking());
    if (!read.ok) return '';
    const share = shareOf(read.value);
    return share === undefined
      ? words.rule.understoodAmount(showValue(target, read.value, this.asking()))
      : words.rule.understoodShare(plainPercent(share));
  }

  private slot(name: string) {
    const slot = this.of().slots[name]!;
    const [target, asking] = [this.target(), this.asking()];
    const text = this.said().texts[name] ?? slot.initial ?? '';
    const offered = target && slot.offered ? slot.offered(target, asking) : [];
    const takesSeveral =
      target !== undefined && isSeveral(target) && slot.written === 'words' && offered.length > 0 && name !== 'value';
    return {
      slot: name,
      text,
      // What may be chosen is no example of anything else.
      example: offered.length === 0 || offered.includes(slot.example) ? slot.example : words.rule.choose,
      isQuoted: slot.written === 'quoted',
      isDate: target?.type === 'date' && slot.written === 'words' && name !== 'days',
      isWrong: (this.problems()[name]?.code ?? 'slot-empty') !== 'slot-empty',
      isFromTable: this.fromTable() === name,
      editor: takesSeveral ? ('several' as const) : offered.length > 0 ? ('choice' as const) : ('text' as const),
      chosen: takesSeveral
        ? text
            .split('|')
            .map((one) => one.trim())
            .filter(Boolean)
        : [],
      offered,
      understood: this.understood(name, text),
      room: Math.min(36, Math.max(slot.example.length, text.length) + 2),
    };
  }

  protected choose(field: FieldKey): void {
    this.changed.emit({ ...this.said(), field });
  }

  protected say(slot: string, text: string): void {
    this.changed.emit({ ...this.said(), texts: { ...this.said().texts, [slot]: text } });
  }
}
