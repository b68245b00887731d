import { type OnHand as How } from '@ivory/contract';
import { type Field, type FieldKey, type FieldValue, scopeOf, withoutScope, type WorkingRow } from '@ivory/core';
import { type RunningRule } from '@ivory/core/rules';
import { sql } from 'kysely';
import { type Tx } from '../db/connect.ts';

interface Proposed {
  readonly before: FieldValue;
  readonly after: FieldValue;
}

/**
 * What a rule makes of rows that the proof in hand changes already: it begins from what is proposed, or takes its place, or leaves
 * these rows alone.
 */
export class OnHand {
  /** How many products and SKUs of the rule's rows the hand changes in a field that the rule changes. */
  met = 0;
  private readonly changed: ReadonlySet<FieldKey>;
  private lastProduct: string | undefined;

  private constructor(
    private readonly how: How,
    private readonly values: ReadonlyMap<string, ReadonlyMap<FieldKey, Proposed>>,
    changed: readonly Field[],
  ) {
    this.changed = new Set(changed.map(({ key }) => key));
  }

  /** Reads what the hand of a person proposes for the fields that a rule reads. */
  static async read(
    tx: Tx,
    person: string,
    { fields, changed }: Pick<RunningRule, 'fields' | 'changed'>,
    how: How,
  ): Promise<OnHand> {
    const known = new Map(fields.map((field) => [`${field.kind} ${field.key}`, field.key]));
    const { rows } = await sql<{ kind: string; id: string; field: string; scope: string } & Proposed>`
      select l.kind, l.id::text, l.field, l.scope::text, l.before, l.after from live_line l join proof p on p.id = l.proof_id
      where p.person_id = ${person} and p.kind = 'hand' and p.state = 'open' and l.kind in ('product', 'sku')
        and l.field = any(${[...new Set(fields.map(({ key }) => withoutScope(key)))]}::text[])
        and l.scope = any(${[...new Set(fields.map(({ key }) => scopeOf(key)))]}::bigint[])`.execute(tx.q);
    const values = new Map<string, Map<FieldKey, Proposed>>();
    for (const { kind, id, field, scope, before, after } of rows) {
      const key = known.get(`${kind} ${scope === '0' ? field : `${field}@${scope}`}`);
      if (key === undefined) continue;
      const thing = `${kind} ${id}`;
      const own = values.get(thing) ?? new Map<FieldKey, Proposed>();
      values.set(thing, own.set(key, { before, after }));
    }
    return new OnHand(how, values, changed);
  }

  /** Gives a row what the hand makes of it; false for one that the rule is to leave alone. */
  take(product: string, sku: string, row: WorkingRow): boolean {
    if (this.values.size === 0) return true;
    const [ofProduct, ofSku] = [this.values.get(`product ${product}`), this.values.get(`sku ${sku}`)];
    const meets = (own: ReadonlyMap<FieldKey, Proposed> | undefined) =>
      own !== undefined && [...own.keys()].some((key) => this.changed.has(key));
    const productMet = meets(ofProduct);
    const skuMet = meets(ofSku);
    if (skuMet) this.met++;
    if (productMet && this.lastProduct !== product) this.met++;
    if (productMet) this.lastProduct = product;
    if (this.how === 'without' && (productMet || skuMet)) return false;
    if (this.how === 'on top')
      for (const own of [ofProduct, ofSku]) for (const [key, { after }] of own ?? []) row[key] = after;
    return true;
  }

  /** What stands in the shop of a value that the rule changes, where its row has what the hand makes of it. */
  before(kind: 'product' | 'sku', id: string, key: FieldKey, before: FieldValue): FieldValue {
    if (this.values.size === 0) return before;
    const proposed = this.how === 'on top' ? this.values.get(`${kind} ${id}`)?.get(key) : undefined;
    return proposed ? proposed.before : before;
  }
}
