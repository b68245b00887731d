import { Location } from '@angular/common';
import { inject, Injectable, untracked } from '@angular/core';
import { NavigationEnd, Router, UrlSerializer } from '@angular/router';
import { LATEST_MOMENT_MS, type Moment, momentOf } from '@ivory/core';
import { Actions, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { filter } from 'rxjs';
import { moment, MomentActions } from '../api/moment.ts';

/** What everything is looked at as; null is now, and anybody. */
interface LookedAt {
  readonly at: Moment | null;
  readonly group: string | null;
}

const GROUP_ID = /^[1-9]\d{0,17}$/;

/**
 * The moment and the customer group that everything is looked at stand in the address of every page, as `at=2026-12-24T08:00:00.000Z&as=2`:
 * they outlive a reload, go along with a link that is sent to somebody, and Back leads to what was looked at before.
 */
@Injectable({ providedIn: 'root' })
export class MomentInAddress {
  private readonly router = inject(Router);
  private readonly serializer = inject(UrlSerializer);
  private readonly store = inject(Store);
  private readonly looked = this.store.selectSignal(moment.selectMomentState);

  constructor() {
    this.follow(inject(Location).path());
    inject(Actions)
      .pipe(ofType(MomentActions.lookAt, MomentActions.lookAs))
      .subscribe(() => this.show(false));
    this.router.events.pipe(filter((event) => event instanceof NavigationEnd)).subscribe(() => {
      const isBack = untracked(this.router.currentNavigation)?.trigger === 'popstate';
      if (isBack) this.follow(this.router.url);
      else this.show(true);
    });
  }

  /** What an address says; what cannot be read is as if it were not there. */
  private said(address: string): LookedAt {
    const { queryParamMap } = this.serializer.parse(address);
    const at = Date.parse(queryParamMap.get('at') ?? '');
    const group = queryParamMap.get('as') ?? '';
    return {
      at: at >= 0 && at <= LATEST_MOMENT_MS ? momentOf(at) : null,
      group: GROUP_ID.test(group) ? group : null,
    };
  }

  /** Looks at what the address says. */
  private follow(address: string): void {
    const { at, group } = this.said(address);
    const now = untracked(this.looked);
    if (at !== now.at) this.store.dispatch(MomentActions.lookAt({ at }));
    if (group !== now.group) this.store.dispatch(MomentActions.lookAs({ group }));
  }

  /** Has the address say what is looked at, in a step of its own or in place of the one that is shown. */
  private show(replaceUrl: boolean): void {
    const { at, group } = untracked(this.looked);
    const there = this.said(this.router.url);
    if (at === there.at && group === there.group) return;
    const tree = this.serializer.parse(this.router.url);
    const { at: _, as: __, ...others } = tree.queryParams;
    tree.queryParams = {
      ...others,
      ...(at !== null && { at: new Date(at).toISOString() }),
      ...(group !== null && { as: group }),
    };
    void this.router.navigateByUrl(tree, { replaceUrl });
  }
}
