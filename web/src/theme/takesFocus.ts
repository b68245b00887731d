import { afterNextRender, Directive, ElementRef, inject } from '@angular/core';

/** A field that comes up to be typed into has the focus at once, with its text chosen. */
@Directive({ selector: 'input[ivoryTakesFocus]' })
export class TakesFocus {
  constructor() {
    const field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      field.focus();
      field.select();
    });
  }
}
