import { type CategoryTree } from '../categories/path.ts';
import { type Currency } from '../money/currency.ts';
import { type NumberStyle } from '../money/digits.ts';
import { fold } from '../words/fold.ts';
import { type Field, type Reference } from './field.ts';

const NO_OTHERS: ReadonlyMap<string, readonly string[]> = new Map();

/** The names of things of a kind, by id, in the order of the shop, with their other and earlier names. */
export class NameList {
  private folded: ReadonlyMap<string, string> | undefined;
  private foldedOthers: ReadonlyMap<string, string> | undefined;

  constructor(
    readonly byId: ReadonlyMap<string, string>,
    readonly alsoCalled: ReadonlyMap<string, readonly string[]> = NO_OTHERS,
  ) {}

  /** Made when it is first asked for: most are never looked up by name. */
  private get idByKey(): ReadonlyMap<string, string> {
    return (this.folded ??= new Map([...this.byId].map(([id, name]) => [fold(name), id])));
  }

  /** What several things are called otherwise means none of them. */
  private get idByOther(): ReadonlyMap<string, string> {
    if (this.foldedOthers) return this.foldedOthers;
    const ids = new Map<string, string>();
    const several = new Set<string>();
    for (const [id, names] of this.alsoCalled)
      for (const key of names.map(fold)) {
        if ((ids.get(key) ?? id) !== id) several.add(key);
        ids.set(key, id);
      }
    for (const key of several) ids.delete(key);
    return (this.foldedOthers = ids);
  }

  /**
   * The id of a name, or of the one thing that is also called so where none has that name; compared without regard to case and accents.
   */
  find(name: string): string | undefined {
    const key = fold(name);
    return this.idByKey.get(key) ?? (this.alsoCalled.size === 0 ? undefined : this.idByOther.get(key));
  }

  /** The same list with other names. */
  withNames(byId: ReadonlyMap<string, string>): NameList {
    return new NameList(byId, this.alsoCalled);
  }

  /** Ids of the names that a test of the folded name accepts. */
  where(test: (folded: string) => boolean): string[] {
    return [...this.idByKey].filter(([key]) => test(key)).map(([, id]) => id);
  }

  names(): string[] {
    return [...this.byId.values()];
  }
}

/** What is needed to read and show values: the shop's currency and the names behind references. */
export interface Names {
  readonly currency: Currency;
  readonly numberStyle?: NumberStyle;
  /** By what `listKey` makes of a reference. */
  readonly lists: ReadonlyMap<string, NameList>;
  readonly categories: CategoryTree;
}

/** Under which key a reference's names stand: `brand`, `choice 7`. */
export const listKey = ({ kind, of }: Reference): string => (of === undefined ? kind : `${kind} ${of}`);

const NONE = new NameList(new Map());

/** The names that a reference points to; none of a kind that the shop has nothing of. */
export const namesBehind = (reference: Reference, names: Names): NameList =>
  names.lists.get(listKey(reference)) ?? NONE;

/** The names that a field refers to; none for one that refers to nothing. */
export const namesOf = ({ refersTo }: Field, names: Names): NameList =>
  refersTo ? namesBehind(refersTo, names) : NONE;
