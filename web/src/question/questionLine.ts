import { ListKeyManager, type ListKeyManagerOption } from '@angular/cdk/a11y';
import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  Injector,
  signal,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { calls, wireProblemWords } from '@ivory/contract';
import { type FieldKey, fieldOfNextValue, showMoney, suggest, type Suggestion, typeOf } from '@ivory/core';
import { Api } from '../api/api.ts';
import { Store } from '@ngrx/store';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { CodesNotFound } from './codesNotFound.ts';
import { columnOfCodes, PastedCodes } from './pastedCodes.ts';
import { QuestionFocus } from './questionFocus.ts';
import { whole } from '../words/numbers.ts';
import { handIn, NOTHING_BY_HAND, type Said, textOf, withTyped } from './saidByHand.ts';

/** What makes up the stock at cost. */
const AT_COST = ['stock > 0', 'cost is filled'];

/** One field in which anything can be asked: its conditions stand as tokens that open again, its count is the whole set. */
@Component({
  selector: 'ivory-question-line',
  imports: [CodesNotFound],
  templateUrl: './questionLine.html',
  styleUrl: './questionLine.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class QuestionLine {
  protected readonly words = words;
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  protected readonly set = this.store.selectSignal(workingSet.selectWorkingSetState);
  private readonly field = viewChild.required<ElementRef<HTMLInputElement>>('field');

  protected readonly draft = signal('');
  protected readonly offered = signal<readonly Suggestion[]>([]);
  protected readonly active = signal(-1);
  private readonly keys = new ListKeyManager<Suggestion & ListKeyManagerOption>(
    this.offered,
    inject(Injector),
  ).withWrap();
  /** Titles of landings and who landed them, as they were read since the field was last empty. */
  private readonly landings = new Map<FieldKey, readonly string[]>();
  /** The field whose values are offered, where they have names. */
  private readonly counting = computed(() => {
    const field = this.offered().find(({ of }) => of)?.of?.field;
    return field && (typeOf(field).isNamed || field.type === 'yesNo') && field.type !== 'lists' ? field.key : undefined;
  });
  private readonly counted = rxResource({
    params: () => {
      const [field, answer] = [this.counting(), this.set().answer];
      return field && answer ? { field, question: answer.question } : undefined;
    },
    stream: ({ params }) => this.api.call(calls.countValues, { body: params }),
  });
  private readonly countsByName = computed(
    () => new Map((this.counted.hasValue() ? this.counted.value().values : []).map(({ name, skus }) => [name, skus])),
  );
  /** What this line asked last, and the conditions that stand in it as tokens. */
  private readonly asked = signal<({ question: string } & Said) | undefined>(undefined);
  /** The tokens: while a question is on its way those that it leaves, so that the next step starts from them. */
  private readonly said = computed((): Said => {
    const { asking, question, answer } = this.set();
    const asked = this.asked();
    if (asking && asked?.question === question) return asked;
    if (!answer) return { conditions: [], hand: NOTHING_BY_HAND };
    return handIn(answer.question, this.asking()) ?? { conditions: answer.conditions, hand: NOTHING_BY_HAND };
  });
  protected readonly conditions = computed(() => this.said().conditions);
  /** SKUs that were put in and left out by hand, which stand as such and can be undone one by one. */
  protected readonly hand = computed(() => this.said().hand);
  protected readonly sides = ['putIn', 'leftOut'] as const;
  protected readonly counts = computed(() => {
    const counts = this.set().answer?.counts;
    if (!counts) return undefined;
    return {
      goods: words.question.counts(whole(counts.products), whole(counts.skus)),
      stock: showMoney(BigInt(counts.stockAtCost) / 100n, { ...this.asking().names.currency, exponent: 0 }),
    };
  });
  /** Ranges that were written backwards are said as they were read. */
  protected readonly turned = computed(() => this.set().answer?.turned ?? []);
  protected readonly problem = computed(() => {
    const problem = this.set().problem;
    if (!problem) return undefined;
    const [place] = problem.places ?? [];
    return place ? wireProblemWords(place) : problem.title;
  });
  protected readonly near = computed(() => {
    const { read, without } = this.set().near;
    return [
      ...read.map((one) => ({ ...one, words: words.question.with(whole(one.skus), one.condition) })),
      ...without.map((one) => ({ ...one, words: words.question.without(whole(one.skus), one.condition) })),
      // What finds nothing either is neither meant nor to blame.
    ].filter(({ skus }) => skus > 0);
  });

  private readonly pastedCodes = inject(PastedCodes);
  private readonly sheetFocus = inject(SheetFocus);
  private waiting = false;

  constructor() {
    const focus = inject(QuestionFocus);
    const gone = inject(DestroyRef);
    this.keys.change.subscribe((at) => this.active.set(at));
    afterNextRender(() => gone.onDestroy(focus.attach(() => this.field().nativeElement.focus())));
    effect(() => {
      const { answer, problem } = this.set();
      if (problem) this.waiting = false;
      else if (answer && this.waiting && !this.set().asking) {
        this.waiting = false;
        this.draft.set('');
      }
    });
  }

  protected typed(text: string): void {
    this.draft.set(text);
    if (text === '') this.landings.clear();
    this.offer();
  }

  /** A column of codes that is pasted becomes a condition of its own beside those that stand. */
  protected paste(event: ClipboardEvent): void {
    const codes = columnOfCodes(event.clipboardData?.getData('text/plain') ?? '', this.asking().register);
    if (!codes) return;
    event.preventDefault();
    const standing = this.conditions();
    this.pastedCodes.open(codes, (question) => this.askFor([...standing, question], this.draft().trim()));
  }

  protected offer(): void {
    const at = this.field().nativeElement.selectionStart ?? this.draft().length;
    const isAtEnd = at === this.draft().length;
    const field = isAtEnd ? fieldOfNextValue(this.draft(), this.asking())?.key : undefined;
    this.offered.set(isAtEnd ? suggest(this.draft(), this.asking(), field && this.landings.get(field)) : []);
    this.keys.setActiveItem(-1);
    if ((field === 'landedIn' || field === 'changedBy') && !this.landings.has(field)) this.readLandings(field);
  }

  /** What landings are asked for by is offered once it was read; nobody waits for it. */
  private readLandings(field: 'landedIn' | 'changedBy'): void {
    this.landings.set(field, []);
    this.api.call(calls.listLandingTexts, { query: { field } }).subscribe({
      next: ({ texts }) => {
        this.landings.set(field, texts);
        this.offer();
      },
      error: () => this.landings.delete(field),
    });
  }

  /** How many SKUs a value would find under the question so far; nothing while that is not known. */
  protected skusOf({ of }: Suggestion): string {
    if (!of || !this.counted.hasValue()) return '';
    // A category that is offered by its own name stands among the counts by its path.
    const byName = this.countsByName();
    const ending = of.field.type === 'categories' ? [...byName].filter(([path]) => path.endsWith(`> ${of.name}`)) : [];
    return whole(byName.get(of.name) ?? ending.reduce((sum, [, skus]) => sum + skus, 0));
  }

  protected close(): void {
    this.offered.set([]);
  }

  protected key(event: KeyboardEvent): void {
    const count = this.offered().length;
    if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && count > 0) {
      event.preventDefault();
      if (event.key === 'ArrowDown') this.keys.setNextItemActive();
      else this.keys.setPreviousItemActive();
    } else if ((event.key === 'Enter' || event.key === 'Tab') && this.active() >= 0) {
      event.preventDefault();
      this.take(this.offered()[this.active()]!);
    } else if (event.key === 'ArrowDown') {
      event.preventDefault();
      this.sheetFocus.wanted.next();
    } else if (event.key === 'Enter') {
      this.ask();
    } else if (event.key === 'Escape') {
      if (count > 0) this.close();
      else this.field().nativeElement.blur();
    } else if (event.key === 'Backspace' && this.draft() === '' && this.conditions().length > 0) {
      event.preventDefault();
      this.open(this.conditions().length - 1);
    }
  }

  protected take({ insert, from }: Suggestion): void {
    this.draft.set(this.draft().slice(0, from) + insert);
    this.field().nativeElement.value = this.draft();
    this.field().nativeElement.focus();
    this.offer();
  }

  /** Asks what the tokens and the draft say together. The draft leaves the field only when it was read. */
  protected ask(): void {
    this.close();
    this.waiting = true;
    const { asking, question } = this.set();
    // A question that came from elsewhere, as by Back, has no tokens yet: it is added to as it is written.
    const isElsewhere = asking && this.asked()?.question !== question;
    const standing = isElsewhere ? [question] : this.conditions();
    const hand = isElsewhere ? NOTHING_BY_HAND : this.hand();
    const draft = this.draft().trim();
    const typed = withTyped(hand, draft);
    if (typed) this.askFor(standing, '', typed);
    else this.askFor(standing, draft, hand);
  }

  /** What was done to one SKU by hand is undone. */
  protected undoByHand(side: 'putIn' | 'leftOut', code: string): void {
    const hand = this.hand();
    this.askFor(this.conditions(), '', { ...hand, [side]: hand[side].filter((one) => one !== code) });
  }

  /** The value of the stock opens: the rows that have some, at a known cost. */
  protected openStock(): void {
    const own = this.conditions().filter((condition) => !AT_COST.includes(condition));
    this.askFor([...own, ...AT_COST]);
  }

  /** A token opens: it goes back into the field, to be changed. */
  protected open(index: number): void {
    const conditions = this.conditions();
    this.draft.set([conditions[index], this.draft()].filter(Boolean).join(' '));
    this.waiting = false;
    this.askFor(conditions.filter((_, i) => i !== index));
    this.field().nativeElement.focus();
  }

  protected remove(index: number): void {
    this.askFor(
      this.conditions().filter((_, i) => i !== index),
      this.waiting ? this.draft().trim() : '',
    );
  }

  protected askFor(conditions: readonly string[], draft = '', hand = this.hand()): void {
    const question = textOf([...conditions, draft].filter(Boolean).join(' '), hand);
    this.asked.set({ question, conditions, hand });
    this.store.dispatch(WorkingSetActions.ask({ question }));
  }

  protected clear(): void {
    this.draft.set('');
    this.askFor([], '', NOTHING_BY_HAND);
  }
}
