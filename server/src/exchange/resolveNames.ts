import {
  categoryPathKey,
  type CategoryTree,
  fold,
  nearest,
  type Names,
  type Problem,
  readCategoryPath,
  showCategoryPath,
} from '@ivory/core';
import { sql } from 'kysely';
import { copyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';
import { NAMED, type NamedField, type Taken } from './taken.ts';

/** A thing that the import makes because a row names it. */
export interface MadeName {
  readonly level: NamedField;
  readonly id: string;
  readonly name: string;
  /** Parent of a category; empty at the root. */
  readonly parent: string;
}

/** Asked between pieces of long work; throws when that was stopped. */
type GoOn = () => Promise<void>;

/** The names that an import's rows hold: those that the shop knows, and those that it may make. */
export class ImportNames {
  private readonly resolvers: ReadonlyMap<NamedField, PlainNames | CategoryNames>;

  constructor(
    private readonly tx: Tx,
    taken: Taken,
    names: Names,
    private readonly goOn: GoOn,
  ) {
    const named = NAMED.filter((field) => taken.includes(field));
    this.resolvers = new Map(
      named.map((field) => [
        field,
        field === 'category' ? new CategoryNames(tx, names.categories) : new PlainNames(tx, field, names),
      ]),
    );
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
   * with the nearest name that there is. Returns what is made.
   */
  async settle(make: boolean): Promise<MadeName[]> {
    for (const [field, resolver] of this.resolvers) {
      const unknown = await this.resolve(field, make);
      if (unknown.length > 0) await this.refuse(field, resolver, unknown);
    }
    return [...this.resolvers.values()].flatMap(({ made }) => made);
  }

  /** Adds what can be found to `named`; returns the names that cannot. */
  private async resolve(field: NamedField, make: boolean): Promise<string[]> {
    const column = sql.ref(`g.${field}`);
    const { rows } = await sql<{ written: string }>`
      select distinct ${column} as written from staged g where g.problems is null and ${column} <> ''
        and not exists (select from named n where n.field = ${field} and n.written = ${column})
    `.execute(this.tx.q);
    const resolver = this.resolvers.get(field)!;
    const found: [string, string, string][] = [];
    const unknown: string[] = [];
    for (const [i, { written }] of rows.entries()) {
      if (i % LOOK_AFTER === 0) await this.goOn();
      const value = await resolver.find(written, make);
      if (value === undefined) unknown.push(written);
      else found.push([field, written, value]);
    }
    await copyIn(this.tx.client, 'named', [found]);
    return unknown;
  }

  /** Refuses the rows of unknown names, all in one statement. */
  private async refuse(
    field: NamedField,
    resolver: PlainNames | CategoryNames,
    unknown: readonly string[],
  ): Promise<void> {
    const problems = unknown.map((written, i) => {
      const problem = resolver.problem(written, i < MOST_NEAREST);
      return [field, written, JSON.stringify([problem])];
    });
    await this.goOn();
    await copyIn(this.tx.client, 'unknown_name', [problems]);
    await sql`analyze unknown_name`.execute(this.tx.q);
    await sql`
      update staged g set problems = u.problem from unknown_name u
      where g.problems is null and u.field = ${field} and u.written = ${sql.ref(`g.${field}`)}
    `.execute(this.tx.q);
  }
}

const LOOK_AFTER = 1_000;
/** So many unknown names are told which is nearest; finding that means comparing with every name of the shop. */
const MOST_NEAREST = 50;

/** Ids for things that will be made, taken from their sequence many at a time. */
class NewIds {
  private ids: string[] = [];

  constructor(
    private readonly tx: Tx,
    private readonly table: string,
  ) {}

  async next(): Promise<string> {
    if (this.ids.length === 0) {
      const { rows } = await sql<{ id: string }>`
        select nextval(pg_get_serial_sequence(${this.table}, 'id')) as id from generate_series(1, ${IDS_AT_ONCE})
      `.execute(this.tx.q);
      this.ids = rows.map(({ id }) => id).reverse();
    }
    return this.ids.pop()!;
  }
}

const IDS_AT_ONCE = 200;

class PlainNames {
  readonly made: MadeName[] = [];
  private readonly ids: Map<string, string>;
  private readonly newIds: NewIds;

  constructor(
    tx: Tx,
    private readonly level: 'brand' | 'supplier',
    private readonly names: Names,
  ) {
    this.newIds = new NewIds(tx, level);
    this.ids = new Map([...names[level].byId].map(([id, name]) => [fold(name), id]));
  }

  async find(written: string, make: boolean): Promise<string | undefined> {
    const key = fold(written);
    const known = this.ids.get(key);
    if (known !== undefined || !make) return known;
    const id = await this.newIds.next();
    this.ids.set(key, id);
    this.made.push({ level: this.level, id, name: written, parent: 'shop' });
    return id;
  }

  problem(written: string, withNearest: boolean): Problem {
    const near = withNearest ? nearest(written, this.names[this.level].names()) : undefined;
    return {
      code: 'reference-unknown',
      field: this.level,
      value: written,
      ...(near !== undefined && { expected: near }),
    };
  }
}

class CategoryNames {
  readonly made: MadeName[] = [];
  private readonly newIds: NewIds;
  /** Ids of what is made, by its path. */
  private readonly fresh = new Map<string, string>();
  private paths: readonly string[] | undefined;

  constructor(
    tx: Tx,
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
    this.made.push({ level: 'category', id, name: steps.at(-1)!, parent: parent! });
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
    return { code: 'category-unknown', field: 'category', value, ...(near !== undefined && { expected: near }) };
  }
}
