import { inject, Pipe, type PipeTransform } from '@angular/core';
import { Store } from '@ngrx/store';
import { session } from './session.ts';

/** A moment as the shop's own clock shows it, wherever the reader is. */
@Pipe({ name: 'shopTime' })
export class ShopTime implements PipeTransform {
  private readonly zone = inject(Store).selectSignal(session.selectTimeZone);

  transform(iso: string): string {
    const timeZone = this.zone();
    return new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short', timeZone }).format(
      new Date(iso),
    );
  }
}
