import { ChangeDetectionStrategy, Component, model } from '@angular/core';
import { NzModalModule } from 'ng-zorro-antd/modal';
import { words } from '../words/en.ts';
import { KEY_ACTIONS, KEYS } from '../keys/register.ts';

/** The keys that work here; fetched only when somebody asks. */
@Component({
  selector: 'ivory-keys-help',
  imports: [NzModalModule],
  template: `
    <nz-modal
      [nzVisible]="open()"
      [nzTitle]="words.keys.title"
      [nzFooter]="null"
      [nzWidth]="420"
      (nzOnCancel)="open.set(false)"
    >
      <ng-container *nzModalContent>
        <table class="plain">
          @for (action of actions; track action) {
            <tr>
              <td>
                <kbd>{{ keys[action].shown }}</kbd>
              </td>
              <td>{{ words.keys.actions[action] }}</td>
            </tr>
          }
        </table>
      </ng-container>
    </nz-modal>
  `,
  styles: `
    kbd {
      font: inherit;
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class KeysHelp {
  readonly open = model.required<boolean>();
  protected readonly words = words;
  protected readonly actions = KEY_ACTIONS;
  protected readonly keys = KEYS;
}
