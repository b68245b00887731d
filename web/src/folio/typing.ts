import { signal } from '@angular/core';
import { type FieldKey } from '@ivory/core';

/** Where somebody is typing, with the text of the field when that began; `isSent`: what was typed is on its way into the proof. */
interface Begun {
  readonly key: FieldKey;
  readonly text: string;
  readonly isSent: boolean;
}

/** The field of a page in which somebody is typing: until that is done it stays as it was when it began, whatever comes meanwhile. */
export class Typing {
  private readonly begun = signal<Begun | undefined>(undefined);

  /** What a field shows: the text that it has now, or the one from which typing in it began; and what was proposed meanwhile. */
  shown(key: FieldKey, text: string): { readonly text: string; readonly elsewhere: string | undefined } {
    const begun = this.begun();
    if (begun?.key !== key) return { text, elsewhere: undefined };
    return { text: begun.text, elsewhere: begun.text === text || begun.isSent ? undefined : text };
  }

  begin(key: FieldKey, text: string): void {
    if (this.begun()?.key !== key) this.begun.set({ key, text, isSent: false });
  }

  send(key: FieldKey): void {
    this.begun.update((begun) => (begun?.key === key ? { ...begun, isSent: true } : begun));
  }

  /** What was sent was taken in or refused. */
  end(key: FieldKey): void {
    this.begun.update((begun) => (begun?.key === key && begun.isSent ? undefined : begun));
  }

  /** The field was left: what was typed there is on its way, or nothing was. */
  leave(key: FieldKey): void {
    this.begun.update((begun) => (begun?.key === key && !begun.isSent ? undefined : begun));
  }
}
