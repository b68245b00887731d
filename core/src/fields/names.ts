import { type CategoryTree } from '../categories/path.ts';
import { type Currency } from '../money/currency.ts';
import { type NumberStyle } from '../money/digits.ts';
import { fold } from '../words/fold.ts';
import { type Field } from './register.ts';

/** The names that references point to, by id: brands, suppliers or lists. */
export class NameList {
  private folded: ReadonlyMap<string, string> | undefined;

  constructor(readonly byId: ReadonlyMap<string, string>) {}

  /** Made when it is first asked for: the names are read with every question, and most look none up. */
  private get idByKey(): ReadonlyMap<string, string> {
    return (this.folded ??= new Map([...this.byId].map(([id, name]) => [fold(name), id])));
  }

  /** The id of a name, compared without regard to case and accents. */
  find(name: string): string | undefined {
    return this.idByKey.get(fold(name));
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
  readonly brand: NameList;
  readonly supplier: NameList;
  /** Lists of SKUs that a count was opened as, by their titles. */
  readonly lists: NameList;
  readonly categories: CategoryTree;
}

/** The names that a field of type `reference` or `lists` refers to. */
export function namesOf(field: Field, names: Names): NameList {
  if (field.type === 'lists') return names.lists;
  return field.key === 'brand' ? names.brand : names.supplier;
}
