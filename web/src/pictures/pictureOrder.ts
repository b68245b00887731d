import { CdkDrag, CdkDropList } from '@angular/cdk/drag-drop';
import { booleanAttribute, ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { type AnswerOf, calls, type ProblemDetails } from '@ivory/contract';
import { NzButtonModule } from 'ng-zorro-antd/button';
import { concatMap, from } from 'rxjs';
import { Api, detailsOf } from '../api/api.ts';
import { MoveButtons } from '../theme/moveButtons.ts';
import { words } from '../words/en.ts';
import { TakesFiles } from './takesFiles.ts';

export type Picture = AnswerOf<typeof calls.getThing>['pictures'][number];

/** A file on its way: how far it is, or why it was not taken. */
interface Sending {
  readonly name: string;
  readonly share: number;
  readonly problem?: ProblemDetails;
}

/** Pictures in their order: dropped, chosen or pasted, dragged and moved by key, each with its alternative text. */
@Component({
  selector: 'ivory-picture-order',
  imports: [CdkDrag, CdkDropList, MoveButtons, NzButtonModule],
  templateUrl: './pictureOrder.html',
  styleUrl: './pictureOrder.less',
  host: { '(paste)': 'pasted($event)' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PictureOrder extends TakesFiles {
  readonly label = input.required<string>();
  readonly pictures = input.required<readonly Picture[]>();
  /** At most one is held. */
  readonly isSingle = input(false, { transform: booleanAttribute });
  /** Texts that the proof in hand gives, by the picture's id. */
  readonly proposedTexts = input<ReadonlyMap<string, string | null>>(new Map());
  /** The pictures in their new order, as text. */
  readonly changed = output<string>();
  readonly textChanged = output<{ readonly id: string; readonly text: string }>();

  protected readonly words = words;
  private readonly api = inject(Api);
  protected readonly sending = signal<readonly Sending[]>([]);
  /** What was said of files that were there already. */
  protected readonly known = signal<readonly string[]>([]);
  /** Pictures that came while others were on their way, so that none is lost. */
  private readonly come = signal<readonly Picture[]>([]);

  protected textOf({ id, alternative }: Picture): string {
    return this.proposedTexts().get(id) ?? alternative ?? '';
  }

  /** The server fetches a picture from its address. */
  protected fetch(field: HTMLInputElement): void {
    const address = field.value.trim();
    if (address === '') return;
    field.value = '';
    const at = this.sending().length;
    this.sending.update((sending) => [...sending, { name: address, share: 0 }]);
    this.api.call(calls.fetchPicture, { body: { address } }).subscribe({
      next: ({ picture, isNew }) => {
        this.sending.update((sending) => sending.filter((_, i) => i !== at));
        if (!isNew) this.known.set([words.pictures.known(address)]);
        this.add(picture);
      },
      error: (error: unknown) =>
        this.sending.update((sending) =>
          sending.map((one, i) => (i === at ? { ...one, problem: detailsOf(error) } : one)),
        ),
    });
  }

  /** Sends files one after another, so that many do not fill the memory; each appears as soon as it is taken. */
  protected override take(files: readonly File[]): void {
    const first = this.sending().length;
    this.known.set([]);
    this.sending.update((sending) => [...sending, ...files.map(({ name }) => ({ name, share: 0 }))]);
    from(files.map((file, i) => ({ file, at: first + i })))
      .pipe(concatMap(({ file, at }) => this.send(file, at)))
      .subscribe({ complete: () => this.sending.update((sending) => sending.filter(({ problem }) => problem)) });
  }

  private send(file: File, at: number): Promise<void> {
    const note = (more: Partial<Sending>) =>
      this.sending.update((sending) => sending.map((one, i) => (i === at ? { ...one, ...more } : one)));
    return new Promise((done) => {
      this.api
        .uploadPicture(file, (share) => note({ share }))
        .subscribe({
          next: ({ picture, isNew }) => {
            note({ share: 1 });
            if (!isNew) this.known.update((known) => [...known, words.pictures.known(file.name)]);
            this.add(picture);
            done();
          },
          error: (error: unknown) => {
            note({ problem: detailsOf(error) });
            done();
          },
        });
    });
  }

  private add(picture: Picture): void {
    if (this.isSingle()) return this.changed.emit(`#${picture.id}`);
    // The present order may lack pictures that arrived a moment ago.
    const ids = this.entries();
    const waiting = [...this.come(), picture].filter(({ id }) => !ids.includes(id));
    this.come.set(waiting);
    this.emit([...ids, ...waiting.map(({ id }) => id)]);
  }

  protected putAway(at: number): void {
    this.sending.update((sending) => sending.filter((_, i) => i !== at));
  }

  protected override takeOut(at: number): void {
    this.come.set([]);
    super.takeOut(at);
  }

  protected override entries(): string[] {
    return this.pictures().map(({ id }) => id);
  }

  protected override emit(ids: readonly string[]): void {
    this.changed.emit([...new Set(ids)].map((id) => `#${id}`).join(' | '));
  }
}
