import { signal } from '@angular/core';
import { type FieldKey } from '@ivory/core';

/** The field being typed into, with its text at the start; `isSent` once the typed text is on its way into the proof. */
interface Begun {
  readonly key: FieldKey;
  readonly text: string;
  readonly isSent: boolean;
}

/** The field being typed into: it keeps its text until typing ends, even when the value changes in between. */
export class Typing {
  private readonly begun = signal<Begun | undefined>(undefined);

  /** The text that a field shows: the present one, or the one at the start of typing, with values proposed since. */
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

  /** The field lost focus: its text is on its way, or unchanged. */
  leave(key: FieldKey): void {
    this.begun.update((begun) => (begun?.key === key && !begun.isSent ? undefined : begun));
  }
}
