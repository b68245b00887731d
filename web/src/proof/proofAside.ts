import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { calls, type ProofSummary } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { map } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { KeepForm, type KeptAs } from '../theme/keepForm.ts';
import { hand } from '../state/hand.ts';
import { HandActions } from '../state/handActions.ts';
import { InTurn } from '../state/inTurn.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { ShopTime } from '../state/shopTime.ts';

/** Under what name a proof is set aside, taken up again, and which other proofs propose something for the same values. */
@Component({
  selector: 'ivory-proof-aside',
  imports: [RouterLink, NzButtonModule, KeepForm],
  providers: [ShopTime],
  template: `
    @if (proof().note) {
      <p class="soft">{{ proof().note }}</p>
    }
    @if (proof().kind === 'hand') {
      @if (naming()) {
        <ivory-keep-form
          [as]="{ name: '', note: proof().note }"
          [nameLabel]="words.aside.name"
          (kept)="setAside($event)"
          (left)="naming.set(false)"
        />
      } @else {
        <button type="button" class="opens" (click)="naming.set(true)">{{ words.aside.setAside }}</button>
      }
    } @else if (proof().kind === 'aside') {
      <button nz-button nzSize="small" type="button" (click)="takeUp()">{{ words.aside.takeUp }}</button>
    }
    @if (problem()) {
      <p class="marked-stop" role="alert">{{ problem() }}</p>
    }
    @for (other of beside(); track other.id) {
      <p class="marked-caution">
        {{ words.aside.beside(whole(other.values)) }}
        <a [routerLink]="['/proof', other.id]">{{ other.title || words.proof.kinds['hand'] }}</a>
        @if (other.at !== null || other.back !== null) {
          <span>{{ when(other.at, other.back) }}</span>
        }
      </p>
    }
  `,
  styles: `
    :host {
      display: block;
      padding: 4px 8px;
    }
    p {
      margin: 0 0 6px;
    }
    a {
      color: var(--active);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ProofAside {
  readonly proof = input.required<ProofSummary>();

  protected readonly words = words;
  protected readonly whole = whole;
  protected readonly naming = signal(false);
  protected readonly problem = signal('');
  private readonly api = inject(Api);
  private readonly shopTime = inject(ShopTime);
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly inTurn = inject(InTurn);
  private readonly version = this.store.selectSignal(hand.selectVersion);
  private readonly read = rxResource({
    params: () => ({ id: this.proof().id, version: this.version() }),
    stream: ({ params: { id } }) =>
      this.api.call(calls.getProofsBeside, { params: { id } }).pipe(map(({ proofs }) => proofs)),
    defaultValue: [],
  });
  /** When another that is planned lands and is taken back, and what stands at the end. */
  protected when(at: string | null, back: string | null): string {
    const lands = at === null ? '' : words.planned.landsAt(this.shopTime.transform(at));
    const ends = back === null ? '' : words.planned.backAt(this.shopTime.transform(back));
    return words.aside.when([lands, ends].filter(Boolean).join(', '), back !== null);
  }

  protected readonly beside = computed(() => (this.read.hasValue() ? this.read.value() : []));

  protected setAside(as: KeptAs): void {
    this.inTurn.run(this.api.call(calls.setAside, { body: as })).subscribe({
      next: ({ proof: { id } }) => this.goOn(['/proof', id]),
      error: (error: unknown) => this.problem.set(detailsOf(error).title),
    });
  }

  protected takeUp(): void {
    this.inTurn.run(this.api.call(calls.takeUp, { params: { id: this.proof().id } })).subscribe({
      next: () => this.goOn(['/proof']),
      error: (error: unknown) => this.problem.set(detailsOf(error).title),
    });
  }

  private goOn(to: readonly string[]): void {
    this.naming.set(false);
    this.problem.set('');
    this.store.dispatch(HandActions.readAgain());
    void this.router.navigate([...to]);
  }
}
