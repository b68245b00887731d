import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import { Store } from '@ngrx/store';
import { type Planned } from '@ivory/contract';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { filter } from 'rxjs';
import { FileDrop } from '../exchange/fileDrop.ts';
import { QuestionFocus } from '../question/questionFocus.ts';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { ProofBar } from '../proof/proofBar.ts';
import { HandActions } from '../state/handActions.ts';
import { planned } from '../state/planned.ts';
import { session } from '../state/session.ts';
import { moment, MomentActions } from '../api/moment.ts';
import { words } from '../words/en.ts';
import { ShopTime } from '../state/shopTime.ts';
import { MomentPanel } from './momentPanel.ts';
import { KeysHelp } from './keysHelp.ts';
import { ProblemStrip } from './problemStrip.ts';
import { type KeyAction, keyAction } from '../keys/register.ts';
import { isTyping } from '../keys/typing.ts';
import { WorkStrip } from './workStrip.ts';

/** The frame that stays put: desks above, the proof below, and the keys that work everywhere. */
@Component({
  selector: 'ivory-frame',
  host: { '(document:keydown)': 'key($event)' },
  imports: [
    RouterLink,
    RouterLinkActive,
    RouterOutlet,
    KeysHelp,
    MomentPanel,
    NzButtonModule,
    ProofBar,
    ShopTime,
    WorkStrip,
    ProblemStrip,
    FileDrop,
  ],
  templateUrl: './frame.html',
  styleUrl: './frame.less',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Frame {
  protected readonly words = words;
  protected readonly desks = [
    { path: '/range', name: words.desks.range },
    { path: '/prices', name: words.desks.prices },
    { path: '/stock', name: words.desks.stock },
    { path: '/findability', name: words.desks.findability },
    { path: '/outlets', name: words.desks.outlets },
  ];
  protected readonly helps = signal(false);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly sheetFocus = inject(SheetFocus);
  private readonly questionFocus = inject(QuestionFocus);
  /** The moment that is looked at; null for now. */
  protected readonly at = this.store.selectSignal(moment.selectAt);
  protected readonly isPast = this.store.selectSignal(moment.selectIsPast);
  protected readonly when = computed(() => {
    const at = this.at();
    return at === null ? undefined : new Date(at).toISOString();
  });
  protected readonly waiting = this.store.selectSignal(planned.selectWaiting);
  private readonly planned = this.store.selectSignal(planned.selectList);
  /** Landings that are planned until the moment that is looked at, whose values it does not show. */
  protected readonly notInIt = computed(() => {
    const at = this.at();
    const due = ({ at: lands, back, landing }: Planned) => Date.parse((landing === null ? lands : back) ?? '');
    return at === null || this.isPast() ? 0 : this.planned().filter((one) => due(one) <= at).length;
  });
  /** The customer group whose prices are looked at. */
  protected readonly groupName = this.store.selectSignal(session.selectGroupName);
  protected readonly choosesMoment = signal(false);
  protected readonly shop = this.store.selectSignal(session.selectShop);

  /** What the keys do that work everywhere; the others are handled where they work. */
  private readonly acts: Partial<Record<KeyAction, () => void>> = {
    ask: () => this.questionFocus.ask(),
    range: () => this.go('/range'),
    prices: () => this.go('/prices'),
    stock: () => this.go('/stock'),
    findability: () => this.go('/findability'),
    outlets: () => this.go('/outlets'),
    rule: () => this.go('/rule'),
    proof: () => this.go('/proof'),
    journal: () => this.go('/journal'),
    lists: () => this.go('/lists'),
    moment: () => this.choosesMoment.set(!this.choosesMoment()),
    'new product': () => this.go('/new'),
    undo: () => this.store.dispatch(HandActions.undo()),
    redo: () => this.store.dispatch(HandActions.redo()),
    help: () => this.help(),
  };
  private readonly main = viewChild.required<ElementRef<HTMLElement>>('main');
  private focusBefore: { readonly element: Element | null; readonly inCell: boolean } | undefined;

  constructor() {
    // What had the focus on the page before is gone: it goes to the new page, and not to the top of everything.
    this.router.events
      .pipe(
        filter((event) => event instanceof NavigationEnd),
        takeUntilDestroyed(),
      )
      .subscribe(() => setTimeout(() => this.keepFocus()));
    effect(() => {
      if (!this.helps()) untracked(() => this.helpClosed());
    });
  }

  protected lookAtNow(): void {
    this.store.dispatch(MomentActions.lookAt({ at: null }));
  }

  protected lookAsAnybody(): void {
    this.store.dispatch(MomentActions.lookAs({ group: null }));
  }

  /** The panel goes, and the keys are the page's again. */
  protected momentChosen(): void {
    this.choosesMoment.set(false);
    this.main().nativeElement.focus({ preventScroll: true });
  }

  protected key(event: KeyboardEvent): void {
    if (isTyping(event.target) || event.defaultPrevented) return;
    const action = keyAction('everywhere', event);
    const act = action && this.acts[action];
    // In a cell letters are text; what is undone with Ctrl is meant there too.
    if (!act || (this.sheetFocus.hasCell() && action !== 'undo' && action !== 'redo')) return;
    event.preventDefault();
    act();
  }

  protected help(): void {
    this.focusBefore = { element: document.activeElement, inCell: this.sheetFocus.hasCell() };
    this.helps.set(true);
  }

  /** The focus goes back to where it was before the keys were shown. */
  private helpClosed(): void {
    const before = this.focusBefore;
    this.focusBefore = undefined;
    if (!before) return;
    setTimeout(() => {
      if (before.inCell) this.sheetFocus.wanted.next();
      else if (before.element instanceof HTMLElement && before.element !== document.body) before.element.focus();
      else this.keepFocus();
    });
  }

  private keepFocus(): void {
    if (document.activeElement === document.body || document.activeElement === null) this.main().nativeElement.focus();
  }

  private go(path: string): void {
    void this.router.navigateByUrl(path);
  }
}
