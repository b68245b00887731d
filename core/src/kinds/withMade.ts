import { CategoryTree } from '../categories/path.ts';
import { type OwnTypeKey } from '../values/valueType.ts';
import { type Asking } from './asking.ts';
import { type KindKey } from './keys.ts';
import { listKey, NameList } from './names.ts';
import { type OwnField, type Register } from './register.ts';

/** A thing that a proof makes, or gives another name. */
export interface Made {
  readonly kind: KindKey;
  readonly id: string;
  readonly name: string;
  /** What it hangs on, where the proof makes it: the category above it, or the option or attribute that a value is of. */
  readonly of: string | null;
  /** Of an option or attribute. */
  readonly type: OwnTypeKey | null;
  readonly unit: string | null;
}

const NO_NAMES = new NameList(new Map());

/**
 * What questions, values and choosers are read with, together with what a proof makes: names of things, categories, a price of goods
 * in each new sale, and a field of goods for each new option and attribute.
 */
export function withMade<A extends Asking>(asking: A, made: readonly Made[]): A {
  if (made.length === 0) return asking;
  const named = new Map<string, Map<string, string>>();
  for (const { kind, id, name, of } of made) {
    if (kind === 'category') continue;
    const key = listKey(kind === 'choice' && of !== null ? { kind, of } : { kind });
    // A thing that has another name is shown by it.
    const list = named.get(key) ?? new Map(asking.names.lists.get(key)?.byId);
    named.set(key, list.set(id, name));
  }
  const lists = new Map(asking.names.lists);
  for (const [key, byId] of named) lists.set(key, (lists.get(key) ?? NO_NAMES).withNames(byId));
  const register = registerWith(asking.register, made);
  const { categories } = asking.names;
  const below = made.filter(({ kind, id }) => kind === 'category' && categories.steps(id).length === 0);
  const names = { ...asking.names, lists };
  if (below.length === 0) return { ...asking, register, names };
  const all = [
    ...categories.categories,
    ...below.map(({ id, name, of }) => ({ id, name, parent: of === '' ? null : of, place: 0 })),
  ];
  return { ...asking, register, names: { ...names, categories: new CategoryTree(all) } };
}

/** The fields of a shop with a price of goods in each new sale, and a field of goods for each new option and attribute. */
export const registerWith = (register: Register, made: readonly Made[]): Register =>
  register.withSales(made.filter(({ kind }) => kind === 'sale')).withOwn(made.flatMap((one) => ownFieldOf(one)));

function ownFieldOf({ kind, id, name, type, unit }: Made): OwnField[] {
  if (kind !== 'option' && kind !== 'attribute') return [];
  // One that only has another name is in the register, and stays as it is there.
  const as = type ?? 'choice';
  const seen = { usedIn: [], neededIn: [], shopperSees: true, feed: null, alsoCalled: null };
  return [{ id, kind, name, type: as, unit, slot: null, ...seen }];
}
