import { CdkContextMenuTrigger, CdkMenu, CdkMenuItem, CdkMenuTrigger } from '@angular/cdk/menu';
import { CdkTree, CdkTreeNode, CdkTreeNodeDef, CdkTreeNodePadding, CdkTreeNodeToggle } from '@angular/cdk/tree';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Router } from '@angular/router';
import { calls } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { Api } from '../api/api.ts';
import { keyAction } from '../keys/register.ts';
import { TakesFocus } from '../theme/takesFocus.ts';
import { Dragged } from '../sheet/rows/dragged.ts';
import { hand } from '../state/hand.ts';
import { PastedPaths } from '../state/pastedPaths.ts';
import { session } from '../state/session.ts';
import { workingSet } from '../state/workingSet.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { Arrangement, type Branch } from './arrangement.ts';
import { BranchGoing } from './branchGoing.ts';
import { type DropPlace, dropPlace, stepPlace, zoneOf } from './dropPlace.ts';
import { GoodsDrop } from './goodsDrop.ts';
import { TreeEdits } from './treeEdits.ts';

/** A line in which a name is typed: of a category that is there, or of a new one beside or in another. */
interface Naming {
  readonly kind: 'rename' | 'beside' | 'below';
  readonly at: string | null;
}

/** Where a drag is. */
interface Over {
  readonly id: string;
  readonly zone: 'before' | 'into' | 'behind';
}

const STEPS: Readonly<Record<string, 'up' | 'down' | 'in' | 'out'>> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowRight: 'in',
  ArrowLeft: 'out',
};

/** The category tree of the spine: asked for, searched, and laid out by hand; what is proposed stands in it before it lands. */
@Component({
  selector: 'ivory-category-tree',
  imports: [
    BranchGoing,
    CdkContextMenuTrigger,
    CdkMenu,
    CdkMenuItem,
    CdkMenuTrigger,
    CdkTree,
    CdkTreeNode,
    CdkTreeNodeDef,
    CdkTreeNodePadding,
    CdkTreeNodeToggle,
    TakesFocus,
  ],
  templateUrl: './categoryTree.html',
  styleUrls: ['./spine.less', './categoryTree.less'],
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CategoryTree {
  /** The categories that the question asks for. */
  readonly asked = input.required<ReadonlySet<string>>();
  readonly ask = output<{ readonly id: string; readonly add: boolean }>();

  protected readonly words = words.spine;
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly edits = inject(TreeEdits);
  private readonly goods = inject(GoodsDrop);
  private readonly pastedPaths = inject(PastedPaths);
  private readonly dragged = inject(Dragged);
  private readonly element = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly tree = viewChild<CdkTree<Branch, string>>('tree');
  private readonly asking = this.store.selectSignal(session.selectAsking);
  private readonly spine = this.store.selectSignal(workingSet.selectSpine);
  private readonly proof = this.store.selectSignal(hand.selectProof);

  /** Read again whenever the proof in hand touches a category otherwise than before. */
  private readonly proposed = rxResource({
    params: () => {
      const proof = this.proof();
      return proof?.fields.some(({ kind }) => kind === 'category') ? proof : undefined;
    },
    stream: () => this.api.call(calls.getHandLines, { params: { kind: 'category' } }),
  });
  /** What is proposed stays in sight while it is read again. */
  private readonly lines = linkedSignal({
    source: () => ({
      isTouched: this.proof()?.fields.some(({ kind }) => kind === 'category') ?? false,
      read: this.proposed.hasValue() ? this.proposed.value().lines : undefined,
    }),
    computation: ({ isTouched, read }, previous?: { readonly value: Lines }): Lines =>
      isTouched ? (read ?? previous?.value ?? []) : [],
  });
  protected readonly arrangement = computed(
    () => new Arrangement(this.asking().names.categories.categories, this.lines()),
  );
  protected readonly search = signal('');
  private readonly finding = computed(() => this.arrangement().finding(this.search()));
  protected readonly roots = computed(() => this.among(this.arrangement().roots));
  protected readonly childrenOf = (branch: Branch): Branch[] => this.among(this.arrangement().childrenOf(branch.id));
  protected readonly keyOf = (branch: Branch): string => branch.id;
  protected readonly trackBy = (_index: number, branch: Branch): string => branch.id;

  /** Categories that are moved, merged or deleted together. */
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly naming = signal<Naming | undefined>(undefined);
  /** A name is typed for a category at the top. */
  protected readonly makesRoot = computed(() => this.naming() !== undefined && this.naming()!.at === null);
  protected readonly going = signal<{ readonly ids: readonly string[]; readonly how: 'delete' | 'merge' } | undefined>(
    undefined,
  );
  private readonly moving = signal<ReadonlySet<string>>(new Set());
  protected readonly over = signal<Over | undefined>(undefined);
  /** How many products get another path with what is dragged. */
  private readonly weighed = rxResource({
    params: () => (this.moving().size > 0 ? [...this.moving()] : undefined),
    stream: ({ params }) =>
      this.api.call(calls.moveThings, { body: { kind: 'category', ids: params, propose: false } }),
  });
  /** What a drop would do, said before it. */
  protected readonly note = computed((): string => {
    const over = this.over();
    if (!over) return '';
    return this.moving().size > 0 ? this.noteOfMove(over) : this.goods.note();
  });

  /** Categories that the search opened. */
  private opened: readonly Branch[] = [];

  /** Finds categories by a part of their names: opens what leads to them, and closes it again when something else is sought. */
  protected find(text: string): void {
    // Closed before all others come back: what is open is drawn.
    for (const branch of this.opened) this.tree()?.collapse(branch);
    this.search.set(text);
    const open = [...(this.finding()?.open ?? [])].flatMap((id) => this.arrangement().get(id) ?? []);
    this.opened = open.filter((one) => !this.tree()?.isExpanded(one));
    for (const branch of this.opened) this.tree()?.expand(branch);
  }

  private among(branches: readonly Branch[]): Branch[] {
    const finding = this.finding();
    return branches.filter(({ id }) => !finding || finding.shown.has(id));
  }

  protected count({ id }: Branch): string {
    const spine = this.spine();
    return spine ? whole(spine.categories[id] ?? 0) : '';
  }

  protected hint({ proposed, inMenu }: Branch): string {
    if (proposed) return this.words.proposed[proposed];
    return inMenu ? '' : this.words.hidden;
  }

  protected press({ id }: Branch, { shiftKey, ctrlKey, metaKey }: MouseEvent): void {
    if (ctrlKey || metaKey) return shiftKey ? this.chooseBranch(this.arrangement().get(id)!) : this.toggle(id);
    this.chosen.set(new Set([id]));
    this.ask.emit({ id, add: shiftKey });
  }

  private toggle(id: string): void {
    this.chosen.update((chosen) =>
      chosen.has(id) ? new Set([...chosen].filter((one) => one !== id)) : new Set([...chosen, id]),
    );
  }

  /** Chooses a category with all below it, beside those that are chosen. */
  protected chooseBranch({ id }: Branch): void {
    this.chosen.update((chosen) => new Set([...chosen, ...this.arrangement().branch(id)]));
  }

  /** The categories that a verb is about: all that are chosen, where it is one of them. */
  private with(id: string): string[] {
    return this.chosen().has(id) ? [...this.chosen()] : [id];
  }

  protected key(branch: Branch, event: KeyboardEvent): void {
    const step = event.altKey && !event.ctrlKey && !event.metaKey ? STEPS[event.key] : undefined;
    const action = keyAction('tree', event) ?? (keyAction('everywhere', event) === 'folio' ? 'folio' : undefined);
    if (step === undefined && action === undefined) return;
    // The tree itself would take a letter for the beginning of a name, and an arrow for a way through it.
    event.preventDefault();
    event.stopPropagation();
    if (step !== undefined) return this.step(branch, step);
    if (action === 'rename branch') this.naming.set({ kind: 'rename', at: branch.id });
    else if (action === 'new beside') this.begin(branch, 'beside');
    else if (action === 'new below') this.begin(branch, 'below');
    else if (action === 'choose branch') this.toggle(branch.id);
    else if (action === 'choose below') this.chooseBranch(branch);
    else if (action === 'folio') this.open(branch);
    else if (action === 'delete branch') this.leave(branch, 'delete');
  }

  /** Those of them that move: what lies below one of them goes along where it is. */
  private topmostWith(id: string): string[] {
    return this.arrangement().topmost(this.with(id));
  }

  private step(branch: Branch, step: 'up' | 'down' | 'in' | 'out'): void {
    const tree = this.arrangement();
    // Of those that are chosen, the ones beside it go with it.
    const ids = this.with(branch.id).filter((id) => tree.get(id)?.parent === branch.parent);
    const place = stepPlace(tree, branch.id, step, new Set(ids));
    if (!place) return;
    if (step === 'in') this.expand(place.into);
    this.edits.move(ids, place);
  }

  private expand(id: string | null): void {
    const branch = id === null ? undefined : this.arrangement().get(id);
    if (branch) this.tree()?.expand(branch);
  }

  /** Opens a line for the name of a new category. */
  protected begin(branch: Branch | undefined, kind: 'beside' | 'below'): void {
    if (branch && kind === 'below') this.expand(branch.id);
    this.naming.set({ kind, at: branch?.id ?? null });
  }

  protected rename(branch: Branch): void {
    this.naming.set({ kind: 'rename', at: branch.id });
  }

  /** Takes a typed name; a blank one is ignored. */
  protected named(event: Event, branch: Branch | undefined): void {
    event.stopPropagation();
    const naming = this.naming();
    const text = (event.target as HTMLInputElement).value.trim();
    this.naming.set(undefined);
    if (!naming || text === '' || text === branch?.name) return this.focus(branch);
    if (naming.kind === 'rename') this.edits.set([naming.at!], 'name', text);
    else this.pastedPaths.make(text, this.parentOf(naming));
    this.focus(branch);
  }

  /** What a new category lies in; null at the top. */
  private parentOf({ kind, at }: Naming): string | null {
    return kind === 'below' ? at : at === null ? null : (this.arrangement().get(at)?.parent ?? null);
  }

  /** Paths that are pasted into the tree go from the top; into the line for a name, from what the new one would lie in. */
  protected pastePaths(event: ClipboardEvent): void {
    const naming = this.naming();
    if (naming?.kind === 'rename') return;
    if (this.pastedPaths.paste(event, naming ? this.parentOf(naming) : null)) this.naming.set(undefined);
  }

  protected unnamed(event: Event, branch: Branch | undefined): void {
    event.stopPropagation();
    this.naming.set(undefined);
    this.focus(branch);
  }

  private focus(branch: Branch | undefined): void {
    if (branch)
      setTimeout(() => this.element.nativeElement.querySelector<HTMLElement>(`[data-id="${branch.id}"]`)?.focus());
  }

  protected leave(branch: Branch, how: 'delete' | 'merge'): void {
    this.going.set({ ids: this.with(branch.id), how });
  }

  protected gone(into: string | null | undefined): void {
    const going = this.going();
    this.going.set(undefined);
    if (going && into !== undefined) this.edits.remove(going.ids, into);
  }

  protected showInMenu(branch: Branch): void {
    this.edits.set(this.with(branch.id), 'inMenu', branch.inMenu ? 'no' : 'yes');
  }

  protected open({ id }: Branch): void {
    void this.router.navigateByUrl(`/folio/category/${id}`);
  }

  protected dragStart({ id }: Branch, event: DragEvent): void {
    event.stopPropagation();
    const ids = this.topmostWith(id);
    event.dataTransfer?.setData('text/plain', ids.map((one) => this.arrangement().get(one)?.name ?? '').join(', '));
    this.dragged.products.set([]);
    this.moving.set(new Set(ids));
  }

  protected dragOver({ id }: Branch, event: DragEvent): void {
    const line = (event.currentTarget as HTMLElement).getBoundingClientRect();
    const isMove = this.moving().size > 0;
    if (!isMove && this.dragged.products().length === 0) return;
    const zone = isMove ? zoneOf(event.clientY - line.top, line.height) : 'into';
    this.over.update((over) => (over?.id === id && over.zone === zone ? over : { id, zone }));
    if (isMove && !this.placeOver({ id, zone })) return;
    if (!isMove) this.goods.over({ kind: 'category', id, move: event.shiftKey });
    event.preventDefault();
  }

  protected drop({ id }: Branch, event: DragEvent): void {
    event.preventDefault();
    const over = this.over();
    if (this.moving().size > 0 && over) {
      const place = this.placeOver(over);
      if (place) this.edits.move([...this.moving()], place);
      if (place && over.zone === 'into') this.expand(id);
    } else if (this.dragged.products().length > 0) this.goods.drop({ kind: 'category', id, move: event.shiftKey });
    this.dragEnd();
  }

  protected dragEnd(): void {
    this.moving.set(new Set());
    this.over.set(undefined);
  }

  /** The pointer may go from one part of a line to another. */
  protected dragLeave({ id }: Branch, { currentTarget, relatedTarget }: DragEvent): void {
    if ((currentTarget as HTMLElement).contains(relatedTarget as Node | null)) return;
    if (this.over()?.id === id) this.over.set(undefined);
  }

  private placeOver({ id, zone }: Over): DropPlace | undefined {
    return dropPlace(this.arrangement(), this.moving(), id, zone);
  }

  private noteOfMove(over: Over): string {
    const { drop, several } = this.words;
    const place = this.placeOver(over);
    const [first, ...others] = [...this.moving()];
    if (!place) return drop.none;
    const tree = this.arrangement();
    const name = (id: string) => tree.get(id)?.name ?? '';
    const below = [...this.moving()].reduce((sum, id) => sum + tree.countBelow(id), 0);
    const what = drop.what(others.length === 0 ? name(first!) : several(others.length + 1), below);
    const stays = [...this.moving()].every((id) => tree.get(id)?.parent === place.into);
    const where =
      place.before !== null ? drop.before(what, name(place.before)) : stays ? drop.last(what) : drop.top(what);
    const text = over.zone === 'into' ? drop.under(what, name(over.id)) : where;
    if (stays) return `${text}.`;
    return `${text}. ${this.weighed.hasValue() ? drop.path(whole(this.weighed.value().products)) : drop.reading}`;
  }
}

type Lines = ConstructorParameters<typeof Arrangement>[1];
