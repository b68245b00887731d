import { afterEveryRender, Directive, ElementRef, inject } from '@angular/core';

/** Copies the accessible name of a select to the field inside it, so that screen readers say it. */
@Directive({ selector: 'nz-select' })
export class SelectLabel {
  constructor() {
    const { nativeElement } = inject<ElementRef<HTMLElement>>(ElementRef);
    afterEveryRender(() => {
      const field = nativeElement.querySelector('input');
      for (const name of ['aria-label', 'aria-labelledby']) {
        const value = nativeElement.getAttribute(name);
        if (field && value !== null && field.getAttribute(name) !== value) field.setAttribute(name, value);
      }
    });
  }
}
