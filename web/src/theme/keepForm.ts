import { ChangeDetectionStrategy, Component, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { NzInputModule } from 'ng-zorro-antd/input';
import { words } from '../words/en.ts';
import { TakesFocus } from './takesFocus.ts';

/** What something is kept as. */
export interface KeptAs {
  readonly name: string;
  readonly note: string;
}

/** Asks for the name under which something is kept, and a note; Enter keeps it, Escape does not. What else is asked stands within. */
@Component({
  selector: 'ivory-keep-form',
  imports: [FormsModule, NzInputModule, TakesFocus],
  template: `
    <form (submit)="$event.preventDefault(); keep()" (keydown.escape)="left.emit()">
      <input
        nz-input
        nzSize="small"
        ivoryTakesFocus
        name="name"
        autocomplete="off"
        [attr.aria-label]="nameLabel()"
        [placeholder]="nameLabel()"
        [(ngModel)]="name"
      />
      <input
        nz-input
        nzSize="small"
        name="note"
        autocomplete="off"
        [attr.aria-label]="words.note"
        [placeholder]="words.note"
        [(ngModel)]="note"
      />
      <ng-content />
      <div>
        <button type="submit" class="opens">{{ words.keep }}</button>
        <button type="button" class="opens" (click)="left.emit()">{{ words.leave }}</button>
      </div>
      @if (problem(); as text) {
        <span class="marked-stop" role="alert">{{ text }}</span>
      }
    </form>
  `,
  styles: `
    input {
      display: block;
      width: 100%;
      margin-bottom: 4px;
    }
    button {
      margin-right: 8px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeepForm {
  readonly as = input.required<KeptAs>();
  readonly nameLabel = input.required<string>();
  readonly problem = input('');
  readonly kept = output<KeptAs>();
  readonly left = output();

  protected readonly words = words.keeping;
  protected readonly name = linkedSignal(() => this.as().name);
  protected readonly note = linkedSignal(() => this.as().note);

  protected keep(): void {
    const name = this.name().trim();
    if (name !== '') this.kept.emit({ name, note: this.note().trim() });
  }
}
