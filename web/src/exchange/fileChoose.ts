import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { words } from '../words/en.ts';
import { ImportFile } from './importFile.ts';

/** A button for those who do not drop files. */
@Component({
  selector: 'ivory-file-choose',
  imports: [NzButtonModule],
  template: `
    <button nz-button type="button" (click)="choose.click()">{{ words.import.choose }}</button>
    <input
      #choose
      type="file"
      hidden
      accept=".csv,.tsv,.txt,text/csv"
      [attr.aria-label]="words.import.choose"
      (change)="chosen(choose)"
    />
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileChoose {
  protected readonly words = words;
  private readonly files = inject(ImportFile);

  protected chosen(input: HTMLInputElement): void {
    const file = input.files?.[0];
    input.value = '';
    if (file) this.files.take(file);
  }
}
