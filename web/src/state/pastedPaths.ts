import { inject, Injectable } from '@angular/core';
import { calls } from '@ivory/contract';
import { KINDS, readPathList } from '@ivory/core';
import { Api, problemHere } from '../api/api.ts';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';
import { Proposing } from './proposing.ts';

/** What is done once categories are proposed, or refused. */
interface Then {
  readonly taken?: () => void;
  readonly refused?: () => void;
}

/** Makes categories of paths: pasted with one in each line, or one that is typed as a path. */
@Injectable({ providedIn: 'root' })
export class PastedPaths {
  private readonly api = inject(Api);
  private readonly proposing = inject(Proposing);

  /** Takes a paste of several lines, which no field for one name could hold; says whether it did. */
  paste(event: ClipboardEvent, into: string | null): boolean {
    const text = event.clipboardData?.getData('text/plain') ?? '';
    if (text.trim().split(/[\r\n]+/).length < 2) return false;
    event.preventDefault();
    event.stopPropagation();
    this.propose(text, into, {}, HEADINGS);
    return true;
  }

  /** Proposes what is missing of a typed path, below `into` or from the top. */
  make(path: string, into: string | null, then: Then = {}): void {
    this.propose(path, into, then, []);
  }

  private propose(text: string, into: string | null, { taken, refused }: Then, headings: readonly string[]): void {
    const { paths, problems } = readPathList(text, headings);
    const refuse = (title: string) => {
      this.proposing.refuse({ ...problemHere(title), places: problems.slice(0, 20) });
      refused?.();
    };
    if (problems.length > 0) return refuse(words.spine.unreadPaths(problems.length));
    if (paths.length > MOST_PATHS) return refuse(words.spine.tooManyPaths(whole(paths.length)));
    this.proposing.run(this.api.call(calls.makePaths, { body: { paths: [...paths], into } }), taken, refused);
  }
}

/** As many as one call makes. */
const MOST_PATHS = 2_000;
/** What a column of categories is called in a file. */
const HEADINGS = [KINDS.category.one, KINDS.category.many, 'category path', 'path', 'level'];
