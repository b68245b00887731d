import { CategoryTree, fold, nearest, type Names, type Problem, readCategoryPath, showCategoryPath } from '@ivory/core';
import { sql } from 'kysely';
import { copyIn } from '../db/copy.ts';
import { type Tx } from '../db/connect.ts';

type NamedField = 'brand' | 'supplier' | 'category';

/** A thing that the import makes because a row names it. */
export interface MadeName {
  readonly level: NamedField;
  readonly id: string;
  readonly name: string;
  /** Parent of a category; empty at the root. */
  readonly parent: string;
}

/**
 * Looks up the names that a column's good rows hold, into the temporary table `named (field, written, value)`.
 * Unknown ones are made when `make` says so; otherwise their rows are refused, with the nearest name that there is.
 */
export async function resolveNames(
  tx: Tx,
  field: NamedField,
  place: number,
  names: Names,
  make: boolean,
): Promise<MadeName[]> {
  const { rows } = await sql<{ written: string }>`
    select distinct vals[${place}::int] as written from staged where problems is null and vals[${place}::int] <> ''
  `.execute(tx.q);
  const resolver = field === 'category' ? new CategoryNames(tx, names.categories) : new PlainNames(tx, field, names);
  const found: [string, string, string][] = [];
  const problems: { written: string; problem: Problem }[] = [];
  for (const { written } of rows) {
    const value = await resolver.find(written, make);
    if (value !== undefined) found.push([field, written, value]);
    else problems.push({ written, problem: resolver.problem(written) });
  }
  await sql`create temp table if not exists named (field text, written text, value text) on commit drop`.execute(tx.q);
  await copyIn(tx.client, 'named', [found]);
  for (const { written, problem } of problems) {
    await sql`
      update staged set problems = ${JSON.stringify([problem])}::jsonb where problems is null and vals[${place}::int] = ${written}
    `.execute(tx.q);
  }
  return resolver.made;
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
