import { Directive, inject } from '@angular/core';
import { NzSelectComponent } from 'ng-zorro-antd/select';

/** A select that begins something with what is chosen and keeps nothing: it is empty again for the next choice. */
@Directive({ selector: 'nz-select[ivoryOffersOnly]', host: { '(ngModelChange)': 'empty()' } })
export class OffersOnly {
  private readonly select = inject(NzSelectComponent);

  protected empty(): void {
    // The kit takes the choice over after it told of it.
    queueMicrotask(() => this.select.writeValue(null));
  }
}
