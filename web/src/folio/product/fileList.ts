import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { type FileOfGoods, filesIn, filesText } from '@ivory/core';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { concatMap, from } from 'rxjs';
import { Api, detailsOf } from '../../api/api.ts';
import { words } from '../../words/en.ts';
import { MoveButtons } from '../../theme/moveButtons.ts';
import { TakesFiles } from '../../pictures/takesFiles.ts';

/** Files that hang on goods, such as manuals: dropped or chosen, named, ordered and taken out. */
@Component({
  selector: 'ivory-file-list',
  imports: [MoveButtons, NzButtonModule],
  template: `
    <div
      class="drop"
      data-takes-files
      [class.over]="isOver()"
      (dragover)="over($event)"
      (dragleave)="isOver.set(false)"
      (drop)="filesDropped($event)"
    >
      <ol [attr.aria-label]="label()">
        @for (file of files(); track file.id; let i = $index) {
          <li>
            <input
              #name
              autocomplete="off"
              [value]="file.name"
              [attr.aria-label]="words.files.nameOf(i + 1)"
              (change)="rename(i, name.value)"
              (keydown)="key(i, $event)"
            />
            <ivory-move-buttons
              [earlier]="words.files.earlier(file.name)"
              [takeOut]="words.files.takeOut(file.name)"
              [isFirst]="i === 0"
              (moved)="move(i, i + $event)"
              (taken)="takeOut(i)"
            />
          </li>
        }
      </ol>
      <p class="soft">
        {{ words.files.drop }}
        <button nz-button nzSize="small" type="button" (click)="choose.click()">{{ words.files.choose }}</button>
        <input #choose type="file" hidden multiple [attr.aria-label]="words.files.choose" (change)="chosen(choose)" />
      </p>
      @if (sending(); as sent) {
        <p class="soft" role="status">
          {{ sent.name }} <progress [value]="sent.share" max="1" [attr.aria-label]="sent.name"></progress>
        </p>
      }
      @for (why of problems(); track $index) {
        <p class="marked-stop" role="alert">{{ why }}</p>
      }
    </div>
  `,
  styles: `
    ol {
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      gap: 6px;
      margin-bottom: 4px;
    }
    li input {
      flex: 1;
      padding: 3px 8px;
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
    }
    .drop {
      padding: 6px;
      border: 1px dashed var(--rule);
    }
    .over {
      border-color: var(--active);
      background: var(--active-soft);
    }
    p {
      margin: 4px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FileList extends TakesFiles {
  readonly label = input.required<string>();
  /** The value of the field. */
  readonly value = input.required<string | null>();
  /** The files in their new order, as text. */
  readonly changed = output<string>();

  protected readonly words = words;
  private readonly api = inject(Api);
  protected readonly files = computed(() => (this.value() ? filesIn(this.value()!) : []));
  /** The file that is on its way, and how far it is. */
  protected readonly sending = signal<{ readonly name: string; readonly share: number } | undefined>(undefined);
  protected readonly problems = signal<readonly string[]>([]);

  /** One after another; those that were taken are proposed together. */
  protected override take(sent: readonly File[]): void {
    const kept: FileOfGoods[] = [];
    this.problems.set([]);
    from(sent)
      .pipe(concatMap((file) => this.send(file, kept)))
      .subscribe({
        complete: () => {
          this.sending.set(undefined);
          const there = new Set(this.files().map(({ id }) => id));
          const more = kept.filter(({ id }) => !there.has(id));
          if (more.length > 0) this.tell([...this.files(), ...more]);
        },
      });
  }

  private send(file: File, kept: FileOfGoods[]): Promise<void> {
    return new Promise((done) => {
      this.api
        .uploadFile(file, (share) => this.sending.set({ name: file.name, share }))
        .subscribe({
          next: ({ id, name }) => {
            kept.push({ id, name: name.replace(/\.[a-z]{2,4}$/i, '') || name });
            done();
          },
          error: (error: unknown) => {
            this.problems.update((problems) => [...problems, detailsOf(error).title]);
            done();
          },
        });
    });
  }

  protected rename(at: number, name: string): void {
    if (name.trim() !== '')
      this.tell(this.files().map((file, i) => (i === at ? { ...file, name: name.trim() } : file)));
  }

  private tell(files: readonly FileOfGoods[]): void {
    this.changed.emit(filesText(files));
  }

  protected override entries(): string[] {
    return this.files().map(({ id }) => id);
  }

  protected override emit(ids: readonly string[]): void {
    this.tell(ids.flatMap((id) => this.files().find((file) => file.id === id) ?? []));
  }
}
