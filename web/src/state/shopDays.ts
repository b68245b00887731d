import { inject, Pipe, type PipeTransform } from '@angular/core';
import { localDay, momentOf, startOfLocalDay, zonedTime } from '@ivory/core';
import { Store } from '@ngrx/store';
import { session } from './session.ts';
import { shownTimes } from '../words/days.ts';

/** A window that ends before its second moment, as days of the shop's calendar, with times where it does not run between midnights. */
@Pipe({ name: 'shopDays' })
export class ShopDays implements PipeTransform {
  private readonly zone = inject(Store).selectSignal(session.selectTimeZone);

  transform({ start, end }: { readonly start: string | null; readonly end: string | null }): string {
    const [from, fromTime] = this.timeOf(start);
    const [until, untilTime] = this.timeOf(end);
    // What ends with a midnight runs to the end of the day before.
    const last = until !== null && untilTime === null ? until - 1 : until;
    return shownTimes({ from, fromTime, until: last, untilTime });
  }

  /** The day of a moment, and its minute where that is not the first. */
  private timeOf(iso: string | null): [day: number | null, minute: number | null] {
    if (iso === null) return [null, null];
    const at = momentOf(Date.parse(iso));
    const day = localDay(at, this.zone());
    if (at === startOfLocalDay(day, this.zone())) return [day, null];
    const [hour, minute] = zonedTime(at, this.zone()).slice(11).split(':').map(Number);
    return [day, hour! * 60 + minute!];
  }
}
