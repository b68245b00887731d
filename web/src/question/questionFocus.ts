import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';

/** Leads to the question line from wherever one is: where there is none, to the workbench that has one. */
@Injectable({ providedIn: 'root' })
export class QuestionFocus {
  private readonly router = inject(Router);
  private line: (() => void) | undefined;
  private isWanted = false;

  /** The line that is on the screen says how it takes the focus; gives back what is to be called when it goes. */
  attach(focus: () => void): () => void {
    this.line = focus;
    if (this.isWanted) focus();
    this.isWanted = false;
    return () => {
      if (this.line === focus) this.line = undefined;
    };
  }

  ask(): void {
    if (this.line) return this.line();
    this.isWanted = true;
    void this.router.navigateByUrl('/range');
  }
}
