import { isFieldKind, KINDS, type KindKey } from '@ivory/core';
import { type RawBuilder, sql } from 'kysely';
import { type LineGroup } from './lineGroup.ts';

/** So many names are kept of what a thing was called. */
const MOST_EARLIER = 20;

/** Kinds whose things keep their earlier names. Options and attributes keep a list of their own. */
const keepsNames = (kind: string): kind is KindKey => KINDS[kind as KindKey].isList && !isFieldKind(kind as KindKey);

/** Lines that follow from others: by kind and field `(id, before, after)`. */
export interface FollowingLines {
  readonly kind: string;
  readonly field: string;
  readonly lines: RawBuilder<unknown>;
}

/**
 * What things that got another name are called from then on besides it: by what they were called before, and no longer by a name that they
 * have now. So files and questions find them by either. The names themselves are written already.
 */
export function earlierNames(proof: string, groups: readonly LineGroup[]): FollowingLines[] {
  const renamed = groups.filter(({ kind, field, standing }) => field === 'name' && standing > 0 && keepsNames(kind));
  return renamed.map(({ kind }) => ({
    kind,
    field: 'alsoCalled',
    lines: sql`
      select t.id, t.also_called as before, (
        select string_agg(x.name, chr(10) order by x.n) from (
          select name, n from unnest(string_to_array(t.also_called, chr(10)) || l.before) with ordinality as o (name, n)
          where fold(name) <> fold(l.after) and (n > coalesce(cardinality(string_to_array(t.also_called, chr(10))), 0) or fold(name) <> fold(l.before))
          order by n desc limit ${sql.lit(MOST_EARLIER)}) x) as after
      from live_line l join ${sql.table(KINDS[kind as KindKey].table)} t on t.id = l.id
      where l.proof_id = ${proof} and l.kind = ${kind} and l.field = 'name' and l.before is not null and l.after is not null
        and fold(l.before) <> fold(l.after)`,
  }));
}
