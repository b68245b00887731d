import { fold } from '../words/fold.ts';

/** The names of a field by how they are compared, and how long they are, the longest first. */
export class KnownNames {
  private readonly byKey: ReadonlyMap<string, string>;
  readonly lengths: readonly number[];

  constructor(names: readonly string[]) {
    this.byKey = new Map(names.map((name) => [fold(name), name]));
    this.lengths = [...new Set(names.map((name) => name.length))].sort((a, b) => b - a);
  }

  get(key: string): string | undefined {
    return this.byKey.get(key);
  }
}

/** The one name that begins with what was written, word by word: `northgate` for Northgate Trade. */
export function onlyNameWith(written: string, names: readonly string[]): string | undefined {
  const start = `${fold(written)} `;
  const found = names.filter((name) => `${fold(name)} `.startsWith(start));
  return found.length === 1 ? found[0] : undefined;
}
