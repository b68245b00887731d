import { inject, Pipe, type PipeTransform } from '@angular/core';
import { localDay, momentOf } from '@ivory/core';
import { Store } from '@ngrx/store';
import { session } from '../state/session.ts';
import { shownDays } from './days.ts';

/** A window that ends before its second moment, as days of the shop's calendar. */
@Pipe({ name: 'shopDays' })
export class ShopDays implements PipeTransform {
  private readonly zone = inject(Store).selectSignal(session.selectTimeZone);

  transform({ start, end }: { readonly start: string | null; readonly end: string | null }): string {
    const day = (at: number) => localDay(momentOf(at), this.zone());
    return shownDays(start === null ? null : day(Date.parse(start)), end === null ? null : day(Date.parse(end) - 1));
  }
}
