import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { DEEPEST_CATEGORY, fold, isTree, type Kind, KINDS, type Line } from '@ivory/core';
import { sql } from 'kysely';
import { firstRow } from '../../../db/firstRow.ts';
import { type Db, inTransaction, type Tx } from '../../../db/connect.ts';
import { Refusal } from '../../../refusal.ts';
import { beginEdit, handProof, putAwayWhenEmpty } from '../../proof/proof.ts';
import { takeInLines } from '../takeIn.ts';

type Move = BodyOf<typeof calls.moveThings>;

/** What a move does: how many things lie below those that move, and how many products get another path. */
interface Moved {
  readonly below: number;
  readonly products: number;
}

/** A thing of an ordered kind as the proof in hand has it, with what stands in the shop. */
interface Placed {
  readonly id: string;
  readonly name: string;
  /** What it hangs on; empty at the top of a tree. */
  readonly on: string;
  readonly place: number;
  readonly stoodOn: string | null;
  readonly stoodAt: string | null;
  readonly made: boolean;
}

/**
 * Proposes that things of an ordered kind stand elsewhere. Only the places that must change do. Refuses kinds without an order, a
 * thing under itself, two siblings of one name, a tree that would be too deep, and whatever is not there any more.
 */
export async function moveThings(db: Db, person: string, { kind, ids, into, before, propose }: Move): Promise<Moved> {
  const described = KINDS[kind];
  if (!described.isOrdered) throw new Refusal('not valid', refusalWords.changes.noOrder(described.many));
  return inTransaction(db, async (tx) => {
    const proof = await handProof(tx, person);
    const all = await placedThings(tx, proof, described);
    const tree = new Arrangement(all, described);
    const moving = tree.inOrder(ids);
    // Of a branch, the top alone is moved.
    const tops = isTree(kind) ? moving.filter(({ on }) => !tree.isWithin(on, new Set(ids))) : moving;
    if (propose) {
      const on = isTree(kind) ? (into ?? '') : moving[0]!.on;
      const lines = tree.move(tops, on, before).map(({ id, field, before, after }): Line => {
        return { kind, id, field, scope: '0', before, after };
      });
      if (lines.length > 0) {
        const edit = await beginEdit(tx, proof, titleOf(tops, tree.nameOf(on), described));
        await takeInLines(tx, proof, edit, lines);
      }
    }
    await putAwayWhenEmpty(tx, proof);
    const branch = isTree(kind) ? tops.flatMap(({ id }) => tree.branch(id)) : [];
    return {
      below: Math.max(0, branch.length - tops.length),
      products: kind === 'category' ? await productsIn(tx, branch) : 0,
    };
  });
}

function titleOf(tops: readonly Placed[], into: string | undefined, { many }: Kind): string {
  const what = tops.length === 1 ? tops[0]!.name : `${tops.length} ${many}`;
  return `Move ${what}${into === undefined ? '' : ` to ${into}`}`.slice(0, 200);
}

async function placedThings(tx: Tx, proof: string, { key, table, hangsBy }: Kind): Promise<Placed[]> {
  // What hangs on nothing stands beside all others of its kind.
  const column = hangsBy ? sql.ref(`t.${hangsBy.column}`) : sql`''`;
  const hungOn = hangsBy ? sql`h.hangs_on` : sql`''`;
  const { rows } = await sql<Placed>`
    with hand as materialized (
      select id, max(after) filter (where field = 'name') as name, max(after) filter (where field = 'parent') as parent,
        bool_or(field = 'parent') as moves, max(after) filter (where field = 'place') as place,
        max(after) filter (where field = 'exists') as hangs_on, bool_or(field = 'exists' and after is null) as goes,
        bool_or(field = 'exists' and after is not null) as made
      from live_line where proof_id = ${proof} and kind = ${key} group by id)
    select t.id, coalesce(h.name, t.name) as name, coalesce(case when h.moves then h.parent else ${column}::text end, '') as on,
      coalesce(h.place::int, t.place) as place, coalesce(${column}::text, '') as "stoodOn", t.place::text as "stoodAt", false as made
    from ${sql.table(table)} t left join hand h on h.id = t.id where h.goes is not true
    union all
    select h.id, h.name, coalesce(case when h.moves then h.parent else ${hungOn} end, ''), coalesce(h.place::int, 100000), null, null, true
    from hand h where h.made and not exists (select from ${sql.table(table)} t where t.id = h.id)
  `.execute(tx.q);
  return rows;
}

async function productsIn(tx: Tx, categories: readonly string[]): Promise<number> {
  const { rows } = await sql<{ products: number }>`
    select count(distinct product_id)::int as products from placement where category_id = any(${categories}::bigint[])
  `.execute(tx.q);
  return firstRow(rows).products;
}

interface Change {
  readonly id: string;
  readonly field: 'parent' | 'place' | 'exists';
  readonly before: string | null;
  readonly after: string | null;
}

/** The things of a kind as they are arranged. */
class Arrangement {
  private readonly byId: ReadonlyMap<string, Placed>;
  private readonly onEach = new Map<string, Placed[]>();

  constructor(
    all: readonly Placed[],
    private readonly kind: Kind,
  ) {
    this.byId = new Map(all.map((one) => [one.id, one]));
    const sorted = [...all].sort((a, b) => a.place - b.place || (fold(a.name) < fold(b.name) ? -1 : 1));
    for (const one of sorted) {
      const siblings = this.onEach.get(one.on);
      if (siblings) siblings.push(one);
      else this.onEach.set(one.on, [one]);
    }
  }

  nameOf(id: string): string | undefined {
    return this.byId.get(id)?.name;
  }

  /** Things by their ids, in their present order; refuses unknown ids. */
  inOrder(ids: readonly string[]): Placed[] {
    const found = [...new Set(ids)].map((id) => {
      const thing = this.byId.get(id);
      if (!thing) throw new Refusal('clash', refusalWords.changes.movedThingGone(this.kind.one));
      return thing;
    });
    return found.sort((a, b) => a.place - b.place);
  }

  /** Whether a thing is one of some, or lies below one of them. */
  isWithin(id: string, ids: ReadonlySet<string>): boolean {
    for (let at: string | undefined = id; at; at = this.byId.get(at)?.on) if (ids.has(at)) return true;
    return false;
  }

  /** A thing and all that lies below it. */
  branch(id: string): string[] {
    return [id, ...(this.onEach.get(id) ?? []).flatMap((one) => this.branch(one.id))];
  }

  /** What changes when things go to stand on `on`, before `before` or behind all that stand there. */
  move(tops: readonly Placed[], on: string, before: string | null): Change[] {
    const moving = new Set(tops.map(({ id }) => id));
    if (isTree(this.kind.key)) this.refuseMove(tops, on, moving);
    const rest = (this.onEach.get(on) ?? []).filter(({ id }) => !moving.has(id));
    const found = before === null ? -1 : rest.findIndex(({ id }) => id === before);
    const at = found < 0 ? rest.length : found;
    const places = placesOf(rest, at, tops.length);
    const arranged = [...rest.slice(0, at), ...tops, ...rest.slice(at)];
    return arranged.flatMap((one, i): Change[] => {
      const place = String(places[i]!);
      const stays = String(one.place) === place;
      return [
        ...(one.on === on ? [] : [hung(one, on)]),
        ...(stays ? [] : [{ id: one.id, field: 'place' as const, before: one.stoodAt, after: place }]),
      ];
    });
  }

  private refuseMove(tops: readonly Placed[], on: string, moving: ReadonlySet<string>): void {
    const { one } = this.kind;
    if (on !== '' && !this.byId.has(on)) throw new Refusal('clash', refusalWords.changes.targetGone(one));
    if (this.isWithin(on, moving)) throw new Refusal('not valid', refusalWords.changes.insideItself(one));
    const depth = this.depthOf(on) + Math.max(...tops.map(({ id }) => this.heightOf(id)));
    if (depth > DEEPEST_CATEGORY)
      throw new Refusal('not valid', refusalWords.changes.tooDeep(depth, one, DEEPEST_CATEGORY));
    const names = new Map(
      (this.onEach.get(on) ?? []).filter(({ id }) => !moving.has(id)).map(({ name }) => [fold(name), name]),
    );
    for (const { name } of tops) {
      const same = names.get(fold(name));
      if (same !== undefined) throw new Refusal('not valid', refusalWords.changes.sameNameThere(same));
      names.set(fold(name), name);
    }
  }

  private depthOf(id: string): number {
    let depth = 0;
    for (let at: string | undefined = id; at; at = this.byId.get(at)?.on) depth++;
    return depth;
  }

  private heightOf(id: string): number {
    return 1 + Math.max(0, ...(this.onEach.get(id) ?? []).map((one) => this.heightOf(one.id)));
  }
}

/** What hangs a thing on another: the line that makes it says so of one that is only proposed. */
const hung = ({ id, made, stoodOn }: Placed, on: string): Change =>
  made
    ? { id, field: 'exists', before: null, after: on }
    : { id, field: 'parent', before: nothing(stoodOn), after: nothing(on) };

const nothing = (id: string | null): string | null => (id === '' ? null : id);

/** Rising places for things between others, of which as few as can be get another. */
function placesOf(rest: readonly Placed[], at: number, count: number): number[] {
  const places = rest.slice(0, at).map(({ place }) => place);
  // What was made without a place, or got the same as another, is put in order first.
  for (let i = 1; i < places.length; i++) places[i] = Math.max(places[i]!, places[i - 1]! + 1);
  let last = places.at(-1) ?? Math.min(-1, (rest[at]?.place ?? 0) - count - 1);
  for (let i = 0; i < count; i++) places.push(++last);
  for (const { place } of rest.slice(at)) places.push((last = Math.max(place, last + 1)));
  return places;
}
