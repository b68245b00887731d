import { sql } from 'kysely';
import { OvertakenError } from './overtakenError.ts';
import { type StoreOf } from './store.ts';

/** The sum of stock movements: a line adds the movement that leads from one to the other. No stock and stock of 0 are the same. */
export const movements: StoreOf<'movements'> = {
  standing: () => ({
    join: sql`left join sku k on k.id = l.id left join stock_total t on t.sku_id = l.id`,
    value: sql<string | null>`case when k.id is not null then coalesce(t.on_hand, 0)::text end`,
  }),
  /**
   * Another landing may write movements of the same SKU at the same time; the trigger that sums them waits for it, so that the
   * sum is looked at once more behind it: where it is not what the line says, throws OvertakenError.
   */
  async apply({ tx, landing, person, movement }, _field, _store, lines) {
    const result = await sql`
      insert into stock_movement (sku_id, quantity, reason, person_id, landing_id)
      select l.id, coalesce(l.after, '0')::int - coalesce(l.before, '0')::int,
        ${movement}, ${person}, ${landing}
      from live_line l join sku k on k.id = l.id
      left join stock_total t on t.sku_id = l.id
      where ${lines} and coalesce(t.on_hand, 0) = coalesce(l.before, '0')::int
        and coalesce(l.after, '0')::int <> coalesce(l.before, '0')::int
    `.execute(tx.q);
    const { rows } = await sql`
      select from live_line l join stock_total t on t.sku_id = l.id
      where ${lines} and t.on_hand <> coalesce(l.after, '0')::int limit 1
    `.execute(tx.q);
    if (rows.length > 0) throw new OvertakenError();
    return Number(result.numAffectedRows);
  },
  async insert({ tx, landing, person }, _field, _store, made) {
    await sql`
      insert into stock_movement (sku_id, quantity, reason, person_id, landing_id)
      select m.id, m.after::int, 'count', ${person}, ${landing} from (${made}) m where m.after::int <> 0
    `.execute(tx.q);
  },
  /** Stock that lies there is moved out; movements stay. */
  async remove({ tx, landing, person }, lines) {
    await sql`
      insert into stock_movement (sku_id, quantity, reason, person_id, landing_id)
      select l.id, -t.on_hand, 'correction', ${person}, ${landing}
      from live_line l join stock_total t on t.sku_id = l.id where ${lines} and t.on_hand <> 0
    `.execute(tx.q);
  },
};
