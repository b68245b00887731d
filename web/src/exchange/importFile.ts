import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { type ProblemDetails } from '@ivory/contract';
import { Store } from '@ngrx/store';
import { signal } from '@angular/core';
import { Api, detailsOf } from '../api/api.ts';
import { ProblemActions } from '../state/problemActions.ts';

/** Takes a dropped or chosen file in and opens its page. */
@Injectable({ providedIn: 'root' })
export class ImportFile {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly store = inject(Store);
  /** Name of the file that is on its way. */
  readonly uploading = signal<string | undefined>(undefined);

  take(file: File): void {
    this.uploading.set(file.name);
    this.api.upload(file).subscribe({
      next: ({ id }) => {
        this.uploading.set(undefined);
        void this.router.navigate(['/import', id]);
      },
      error: (error: unknown) => {
        this.uploading.set(undefined);
        const problem = detailsOf(error);
        this.refuse({ ...problem, title: `${file.name}: ${problem.title}` });
      },
    });
  }

  refuse(problem: ProblemDetails): void {
    this.store.dispatch(ProblemActions.show({ problem }));
  }
}
