import { CdkTree, CdkTreeNode, CdkTreeNodeDef, CdkTreeNodePadding, CdkTreeNodeToggle } from '@angular/cdk/tree';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { type Category, EVERYTHING, parseQuestion, plain, printQuestion, type Question } from '@ivory/core';
import { Store } from '@ngrx/store';
import { session } from '../state/session.ts';
import { workingSet, WorkingSetActions } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** The rail at the left: where things lie and what is missing, each with its count under the present question. */
@Component({
  selector: 'ivory-spine',
  imports: [CdkTree, CdkTreeNode, CdkTreeNodeDef, CdkTreeNodePadding, CdkTreeNodeToggle],
  templateUrl: './spine.html',
  styleUrl: './spine.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Spine {
  protected readonly words = words;
  private readonly store = inject(Store);
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly names = computed(() => this.asking().names);
  private readonly spine = this.store.selectSignal(workingSet.selectSpine);
  private readonly answer = this.store.selectSignal(workingSet.selectAnswer);

  private readonly below = computed(() => {
    const below = new Map<string | null, Category[]>();
    for (const category of this.names().categories.categories) {
      below.set(category.parent, [...(below.get(category.parent) ?? []), category]);
    }
    return below;
  });
  protected readonly roots = computed(() => this.below().get(null) ?? []);
  protected readonly childrenOf = (category: Category): Category[] => this.below().get(category.id) ?? [];
  protected readonly gaps = computed(() => (this.spine()?.gaps ?? []).filter(({ skus }) => skus > 0));
  /** Categories that the question names, so that the spine shows where one is. */
  private readonly asked = computed(() => {
    const read = parseQuestion(this.answer()?.question ?? '', this.asking());
    return read.ok ? read.value : EVERYTHING;
  });
  private readonly chosen = computed(() => new Set(categoriesIn(this.asked())));

  protected isChosen(id: string): boolean {
    return this.chosen().has(id);
  }

  protected count(id: string): string {
    const spine = this.spine();
    return spine ? whole(spine.categories[id] ?? 0) : '';
  }

  protected skus(count: number): string {
    return whole(count);
  }

  /** One category takes the place of another; with Shift the goods of both are asked for. */
  protected ask(category: Category, add: boolean): void {
    const before = add ? categoriesIn(this.asked()) : [];
    const place: Question = {
      kind: 'compare',
      field: 'category',
      comparison: 'in',
      values: [...new Set([...before, category.id])],
    };
    this.askFor(place);
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

/** The categories of the question's own `in` condition, by their ids. */
function categoriesIn(question: Question): readonly string[] {
  const parts = question.kind === 'all' ? question.of : [question];
  return parts.flatMap((part) =>
    part.kind === 'compare' && part.field === 'category' && part.comparison === 'in' ? part.values : [],
  );
}
