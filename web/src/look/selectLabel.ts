import { afterEveryRender, Directive, ElementRef, inject } from '@angular/core';

/** Gives the field inside a select the name that stands on the select, so that it is said when it is reached. */
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
