import { CategoryTree, fold, nearest, type Names, type Problem, readCategoryPath, showCategoryPath } from '@ivory/core';
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

/** The names that an import's rows hold: those that the shop knows, and those that it may make. */
export class ImportNames {
  private readonly resolvers: ReadonlyMap<NamedField, PlainNames | CategoryNames>;

  constructor(
    private readonly tx: Tx,
    taken: Taken,
    names: Names,
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
    for (const field of this.resolvers.keys()) await this.resolve(field, false);
  }

  /**
   * Makes the names of good rows that the shop does not know, when `make` says so; otherwise their rows are refused,
   * with the nearest name that there is. Returns what is made.
   */
  async settle(make: boolean): Promise<MadeName[]> {
    for (const [field, resolver] of this.resolvers) {
      for (const written of await this.resolve(field, make)) {
        await sql`
          update staged set problems = ${JSON.stringify([resolver.problem(written)])}::jsonb
          where problems is null and ${sql.ref(field)} = ${written}
        `.execute(this.tx.q);
      }
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
    const found: [string, string, string][] = [];
    const unknown: string[] = [];
    for (const { written } of rows) {
      const value = await this.resolvers.get(field)!.find(written, make);
      if (value === undefined) unknown.push(written);
      else found.push([field, written, value]);
    }
    await copyIn(this.tx.client, 'named', [found]);
    return unknown;
  }
}

async function newId(tx: Tx, table: string): Promise<string> {
  const { rows } = await sql<{ id: string }>`select nextval(pg_get_serial_sequence(${table}, 'id')) as id`.execute(
    tx.q,
  );
  return rows[0]!.id;
}

class PlainNames {
  readonly made: MadeName[] = [];
  private readonly ids: Map<string, string>;

  constructor(
    private readonly tx: Tx,
    private readonly level: 'brand' | 'supplier',
    private readonly names: Names,
  ) {
    this.ids = new Map([...names[level].byId].map(([id, name]) => [fold(name), id]));
  }

  async find(written: string, make: boolean): Promise<string | undefined> {
    const key = fold(written);
    const known = this.ids.get(key);
    if (known !== undefined || !make) return known;
    const id = await newId(this.tx, this.level);
    this.ids.set(key, id);
    this.made.push({ level: this.level, id, name: written, parent: 'shop' });
    return id;
  }

  problem(written: string): Problem {
    const near = nearest(written, this.names[this.level].names());
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

  constructor(
    private readonly tx: Tx,
    private tree: CategoryTree,
  ) {}

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
    const known = this.tree.findPath(steps);
    if (known !== undefined || !make) return known;
    const parent = steps.length > 1 ? await this.findPath(steps.slice(0, -1), make) : '';
    const id = await newId(this.tx, 'category');
    const name = steps.at(-1)!;
    this.made.push({ level: 'category', id, name, parent: parent! });
    this.tree = new CategoryTree([...this.tree.categories, { id, name, parent: parent || null, place: 0 }]);
    return id;
  }

  problem(written: string): Problem {
    const paths = this.tree.categories.map(({ id }) => this.tree.path(id));
    const unknown = written.split('|').find((path) => {
      const read = readCategoryPath(path);
      return !read.ok || this.tree.findPath(read.value) === undefined;
    });
    const read = readCategoryPath(unknown ?? written);
    const value = read.ok ? showCategoryPath(read.value) : written;
    const near = nearest(value, paths);
    return { code: 'category-unknown', field: 'category', value, ...(near !== undefined && { expected: near }) };
  }
}
