import {
  type Asking,
  canonicalSet,
  categoryPathKey,
  type CategoryTree,
  type Field,
  fold,
  type KindKey,
  type NameList,
  nearest,
  holdsOtherGoods,
  namesOf,
  placeOf,
  type Problem,
  readCategoryPath,
  readValue,
  showCategoryPath,
} from '@ivory/core';
import { sql } from 'kysely';
import { copyIn } from '../../db/copy.ts';
import { type Tx } from '../../db/connect.ts';
import { withWrittenCodes } from '../../asked/productCodes.ts';
import { placeBehind } from '../../changes/propose/things/makeMissingCategories.ts';
import { NewIds } from '../../changes/propose/newIds.ts';
import { isNamed, isOption, type Taken } from './taken.ts';

/** A thing that the import makes because a row names it. */
export interface MadeName {
  readonly kind: KindKey;
  readonly id: string;
  readonly name: string;
  /** What it hangs on: the parent of a category, empty at the root; the option or attribute of a value. */
  readonly parent: string;
  /** Of a value or a category: behind those that there are. */
  readonly place?: number;
}

/** Asked between pieces of long work; throws when that was stopped. */
type GoOn = () => Promise<void>;

/** The names that an import's rows hold: those that the shop knows, and those that it may make. */
export class ImportNames {
  private readonly resolvers: ReadonlyMap<Field, Resolver>;

  constructor(
    private readonly tx: Tx,
    taken: Taken,
    asking: Asking,
    private readonly goOn: GoOn,
  ) {
    this.resolvers = new Map(taken.filter(isNamed).map((field) => [field, resolverOf(field, tx, asking)]));
  }

  /** Looks up what the shop knows, into the temporary table `named (field, written, value)`. */
  async lookUp(): Promise<void> {
    await sql`
      create temp table named (field text, written text, value text, primary key (field, written)) on commit drop
    `.execute(this.tx.q);
    await sql`
      create temp table unknown_name (field text, written text, problem jsonb) on commit drop
    `.execute(this.tx.q);
    for (const field of this.resolvers.keys()) await this.resolve(field, false);
  }

  /**
   * Makes the names of good rows that the shop does not know, when `make` says so; otherwise their rows are refused,
   * with the nearest name that there is. Values of options are made all the same: there are as many as there are goods. Returns
   * what is made.
   */
  async settle(make: boolean): Promise<MadeName[]> {
    for (const [field, resolver] of this.resolvers) {
      // What an assortment is for, no file says.
      const mayMake = field.refersTo!.kind !== 'assortment' && (make || isOption(field));
      const unknown = await this.resolve(field, mayMake);
      if (unknown.length > 0) await this.refuse(field, resolver, unknown);
    }
    return [...this.resolvers.values()].flatMap(({ made }) => made);
  }

  /** Adds what can be found to `named`; returns the names that cannot. What is made stands in the order of the file. */
  private async resolve(field: Field, make: boolean): Promise<string[]> {
    const { key } = field;
    const column = sql.ref(`g.${key}`);
    const { rows } = await sql<{ written: string }>`
      select ${column} as written from staged g where g.problems is null and ${column} <> ''
        and not exists (select from named n where n.field = ${key} and n.written = ${column})
      group by 1 ${make ? sql`order by min(g.row_no)` : sql``}
    `.execute(this.tx.q);
    const resolver = this.resolvers.get(field)!;
    await resolver.prepare?.(rows.map(({ written }) => written));
    const found: [string, string, string][] = [];
    const unknown: string[] = [];
    for (const [i, { written }] of rows.entries()) {
      if (i % LOOK_AFTER === 0) await this.goOn();
      const value = await resolver.find(written, make);
      if (value === undefined) unknown.push(written);
      else found.push([key, written, value]);
    }
    await copyIn(this.tx.client, 'named', [found]);
    return unknown;
  }

  /** Refuses the rows of unknown names, all in one statement. */
  private async refuse({ key }: Field, resolver: Resolver, unknown: readonly string[]): Promise<void> {
    const problems = unknown.map((written, i) => {
      const problem = resolver.problem(written, i < MOST_NEAREST);
      return [key, written, JSON.stringify([problem])];
    });
    await this.goOn();
    await copyIn(this.tx.client, 'unknown_name', [problems]);
    await sql`analyze unknown_name`.execute(this.tx.q);
    await sql`
      update staged g set problems = u.problem from unknown_name u
      where g.problems is null and u.field = ${key} and u.written = ${sql.ref(`g.${key}`)}
    `.execute(this.tx.q);
  }
}

const LOOK_AFTER = 1_000;
/** So many unknown names are told which is nearest; finding that means comparing with every name of the shop. */
const MOST_NEAREST = 50;

/** Finds what names of one field mean. */
interface Resolver {
  /** What the import makes because a row names it. */
  readonly made: readonly MadeName[];
  /** Reads what there is of some texts, before they are asked for one by one. */
  prepare?(written: readonly string[]): Promise<void>;
  find(written: string, make: boolean): Promise<string | undefined>;
  problem(written: string, withNearest: boolean): Problem;
}

function resolverOf(field: Field, tx: Tx, asking: Asking): Resolver {
  const { names } = asking;
  if (holdsOtherGoods(field)) return new CodesOfGoods(tx, field, asking);
  return field.type === 'categories'
    ? new CategoryNames(tx, field, names.categories)
    : new PlainNames(tx, field, namesOf(field, names));
}

/** Other goods by their codes, as those that go well with a product: only those that are in the shop. */
class CodesOfGoods implements Resolver {
  readonly made: readonly MadeName[] = [];

  constructor(
    private readonly tx: Tx,
    private readonly field: Field,
    private asking: Asking,
  ) {}

  async prepare(written: readonly string[]): Promise<void> {
    this.asking = await withWrittenCodes(this.tx, this.asking, written);
  }

  private read(written: string) {
    return readValue(this.field, written, this.asking);
  }

  find(written: string): Promise<string | undefined> {
    const read = this.read(written);
    return Promise.resolve(read.ok ? (read.value ?? '') : undefined);
  }

  problem(written: string): Problem {
    const read = this.read(written);
    return read.ok
      ? { code: 'reference-unknown', value: written, ...placeOf(this.field) }
      : { ...read.problem, ...placeOf(this.field) };
  }
}

/** The names of one field: brands, tags, values of an option. */
class PlainNames implements Resolver {
  readonly made: MadeName[] = [];
  private readonly ids: Map<string, string>;
  private readonly newIds: NewIds;
  private readonly kind: KindKey;

  constructor(
    tx: Tx,
    private readonly field: Field,
    private readonly list: NameList,
  ) {
    this.kind = field.refersTo!.kind as KindKey;
    this.newIds = new NewIds(tx, this.kind);
    this.ids = new Map([...list.byId].map(([id, name]) => [fold(name), id]));
  }

  /** The id of a name; of several, divided by `|`, where the field holds several. */
  async find(written: string, make: boolean): Promise<string | undefined> {
    if (this.field.type !== 'references') return this.findOne(written, make);
    const ids: string[] = [];
    for (const name of written.split('|')) {
      const id = await this.findOne(name, make);
      if (id === undefined) return undefined;
      ids.push(id);
    }
    return canonicalSet(ids);
  }

  private async findOne(name: string, make: boolean): Promise<string | undefined> {
    const key = fold(name);
    const known = this.ids.get(key) ?? this.list.find(name);
    if (known !== undefined || !make) return known;
    const id = await this.newIds.next();
    this.ids.set(key, id);
    const { of } = this.field.refersTo!;
    const made = { kind: this.kind, id, name, parent: of ?? 'shop' };
    this.made.push(of === undefined ? made : { ...made, place: this.ids.size });
    return id;
  }

  problem(written: string, withNearest: boolean): Problem {
    const parts = this.field.type === 'references' ? written.split('|') : [written];
    const value = parts.find((part) => !this.ids.has(fold(part)) && this.list.find(part) === undefined) ?? written;
    const near = withNearest ? nearest(value, this.list.names()) : undefined;
    return {
      code: 'reference-unknown',
      ...placeOf(this.field),
      value,
      ...(near !== undefined && { expected: near }),
    };
  }
}

class CategoryNames implements Resolver {
  readonly made: MadeName[] = [];
  private readonly newIds: NewIds;
  /** Ids of what is made, by its path. */
  private readonly fresh = new Map<string, string>();
  private paths: readonly string[] | undefined;

  constructor(
    tx: Tx,
    private readonly field: Field,
    private readonly tree: CategoryTree,
  ) {
    this.newIds = new NewIds(tx, 'category');
  }

  /** The ids of one or more paths, divided by `|`. */
  async find(written: string, make: boolean): Promise<string | undefined> {
    const ids: string[] = [];
    for (const path of written.split('|')) {
      const read = readCategoryPath(path);
      const id = read.ok ? await this.findPath(read.value, make) : undefined;
      if (id === undefined) return undefined;
      if (!ids.includes(id)) ids.push(id);
    }
    return ids.join('|');
  }

  private async findPath(steps: readonly string[], make: boolean): Promise<string | undefined> {
    const key = categoryPathKey(steps);
    const known = this.tree.findPath(steps) ?? this.fresh.get(key);
    if (known !== undefined || !make) return known;
    // From the root down, so that a parent has a lower id than what hangs on it.
    const parent = steps.length > 1 ? await this.findPath(steps.slice(0, -1), make) : '';
    const id = await this.newIds.next();
    const place = placeBehind(this.made.length);
    this.made.push({ kind: 'category', id, name: steps.at(-1)!, parent: parent!, place });
    this.fresh.set(key, id);
    return id;
  }

  problem(written: string, withNearest: boolean): Problem {
    const unknown = written.split('|').find((path) => {
      const read = readCategoryPath(path);
      return !read.ok || this.tree.findPath(read.value) === undefined;
    });
    const read = readCategoryPath(unknown ?? written);
    const value = read.ok ? showCategoryPath(read.value) : written;
    this.paths ??= this.tree.categories.map(({ id }) => this.tree.path(id));
    const near = withNearest ? nearest(value, this.paths) : undefined;
    return { code: 'category-unknown', ...placeOf(this.field), value, ...(near !== undefined && { expected: near }) };
  }
}
