import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { NavigationEnd, Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { filter, map } from 'rxjs';
import { comesTo } from './comesTo.ts';
import { LandProof } from './landProof.ts';
import { SheetFocus } from '../sheet/keys/sheetFocus.ts';
import { hand } from '../state/hand.ts';
import { HandActions } from '../state/handActions.ts';
import { words } from '../words/en.ts';
import { share, whole } from '../words/numbers.ts';

/** What is proposed, from every source, wherever one is; it lands from here or through the proof. */
@Component({
  selector: 'ivory-proof-bar',
  imports: [NzButtonModule, RouterLink],
  template: `
    @if (shown(); as bar) {
      <section class="bar" [attr.aria-label]="words.proof.title">
        <a class="opens" routerLink="/proof"
          ><strong>{{ bar.changes }}</strong></a
        >
        @if (bar.margin) {
          <span>{{ bar.margin }}</span>
        }
        @if (bar.warning) {
          <a class="opens caution-text" routerLink="/proof">{{ bar.warning }}</a>
        }
        @if (bar.leftOut) {
          <span class="soft">{{ bar.leftOut }}</span>
        }
        <span class="spread"></span>
        <button nz-button type="button" (click)="undo()">{{ words.proofBar.undo }}</button>
        <a nz-button routerLink="/proof">{{ words.proofBar.lookThrough }}</a>
        <button nz-button nzType="primary" type="button" [disabled]="bar.lines === 0 || bar.isLanding" (click)="land()">
          {{ bar.isLanding ? words.proof.landing : words.proofBar.land }}
        </button>
      </section>
    }
  `,
  styles: `
    .bar {
      display: flex;
      align-items: center;
      gap: 18px;
      min-height: 44px;
      padding: 0 16px;
      background: var(--changed);
      border-top: 1px solid #cbbf9f;
    }
    .spread {
      flex: 1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofBar {
  protected readonly words = words;
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly landing = inject(LandProof);
  private readonly sheetFocus = inject(SheetFocus);
  private readonly proof = this.store.selectSignal(hand.selectProof);
  private readonly url = toSignal(
    this.router.events.pipe(
      filter((event) => event instanceof NavigationEnd),
      map(() => this.router.url),
    ),
    { initialValue: '' },
  );

  private readonly isLanding = signal(false);
  protected readonly shown = computed(() => {
    const proof = this.proof();
    if (!proof || proof.lines + proof.leftOut === 0 || this.url() === '/proof') return undefined;
    const warnings = proof.warnings.reduce((sum, { lines }) => sum + lines, 0);
    return {
      lines: proof.lines,
      isLanding: this.isLanding() || proof.state === 'landing',
      changes: comesTo(proof),
      margin:
        proof.marginBefore === null ? '' : words.proofBar.margin(share(proof.marginBefore), share(proof.marginAfter)),
      warning: warnings > 0 ? words.proofBar.toLookAt(whole(warnings)) : '',
      leftOut: proof.leftOut > 0 ? words.proofBar.leftOut(whole(proof.leftOut)) : '',
    };
  });

  /** The goods stay in sight: the sheet shows what has landed. */
  protected land(): void {
    this.isLanding.set(true);
    const done = () => this.isLanding.set(false);
    this.landing.land(this.proof()!.id, {
      landed: () => {
        done();
        // The button that had the focus goes.
        this.sheetFocus.wanted.next();
      },
      refused: done,
    });
  }

  protected undo(): void {
    this.store.dispatch(HandActions.undo());
  }
}
