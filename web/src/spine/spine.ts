import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { EVERYTHING, type FieldKey, parseQuestion, plain, printQuestion, type Question } from '@ivory/core';
import { Store } from '@ngrx/store';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { AssortmentLines } from './assortmentLines.ts';
import { categoriesIn } from './categoriesIn.ts';
import { CategoryTree } from './categoryTree.ts';
import { KeptSets } from './keptSets.ts';

/** The rail at the left: where things lie and what is missing, each with its count under the present question. */
@Component({
  selector: 'ivory-spine',
  imports: [AssortmentLines, CategoryTree, KeptSets],
  templateUrl: './spine.html',
  styleUrl: './spine.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Spine {
  protected readonly words = words;
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly spine = this.store.selectSignal(workingSet.selectSpine);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);

  protected readonly gaps = computed(() => (this.spine()?.gaps ?? []).filter(({ skus }) => skus > 0));
  /** Categories that the question names, so that the spine shows where one is. */
  private readonly asked = computed(() => {
    const read = parseQuestion(this.answer()?.question ?? '', this.asking());
    return read.ok ? read.value : EVERYTHING;
  });
  protected readonly askedCategories = computed(() => new Set(categoriesIn(this.asked())));
  protected readonly askedAssortments = computed(() => new Set(valuesOf(this.asked(), 'assortment')));

  protected skus(count: number): string {
    return whole(count);
  }

  /** One category takes the place of another; with Shift the goods of both are asked for. */
  protected ask({ id, add }: Asked): void {
    const before = add ? categoriesIn(this.asked()) : [];
    const place: Question = {
      kind: 'compare',
      field: 'category',
      comparison: 'in',
      values: [...new Set([...before, id])],
    };
    this.askFor(place);
  }

  /** One assortment takes the place of another; with Shift the goods of both are asked for. */
  protected askAssortment({ id, add }: Asked): void {
    const before = add ? valuesOf(this.asked(), 'assortment') : [];
    const rest = this.rest(
      (part) => !(part.kind === 'compare' && part.field === 'assortment' && part.comparison === 'is'),
    );
    const values = [...new Set([...before, id])];
    this.dispatch({ kind: 'all', of: [{ kind: 'compare', field: 'assortment', comparison: 'is', values }, ...rest] });
  }

  protected askGap(gap: string): void {
    const rest = this.rest((part) => !(part.kind === 'compare' && part.field === 'gap'));
    this.dispatch({ kind: 'all', of: [...rest, { kind: 'compare', field: 'gap', comparison: 'is', values: [gap] }] });
  }

  protected askEverything(): void {
    this.dispatch(EVERYTHING);
  }

  private askFor(place: Question): void {
    const rest = this.rest(
      (part) => !(part.kind === 'compare' && part.field === 'category' && part.comparison === 'in'),
    );
    this.dispatch({ kind: 'all', of: [place, ...rest] });
  }

  private rest(keep: (part: Question) => boolean): Question[] {
    const asked = this.asked();
    return (asked.kind === 'all' ? asked.of : [asked]).filter(keep);
  }

  private dispatch(question: Question): void {
    this.store.dispatch(WorkingSetActions.ask({ question: printQuestion(plain(question), this.asking()) }));
  }
}

interface Asked {
  readonly id: string;
  /** Together with what is asked for already. */
  readonly add: boolean;
}

/** What the question's own `is` condition of a field asks for. */
function valuesOf(question: Question, field: FieldKey): readonly string[] {
  const parts = question.kind === 'all' ? question.of : [question];
  return parts.flatMap((part) =>
    part.kind === 'compare' && part.field === field && part.comparison === 'is' ? part.values : [],
  );
}
