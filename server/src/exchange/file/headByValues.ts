import { type Asking, codeKey, matchByValues, type Names, readCellText } from '@ivory/core';
import { sql } from 'kysely';
import { type Db } from '../../db/connect.ts';
import { type FileRow } from './csvRows.ts';
import { findHead, headBelow, type TableHead } from './tableHead.ts';

/** So many rows tell whether a column holds codes. */
const LOOKED_AT = 50;

/** The table of a file whose headings are looked for. A row of which a cell is a code of the shop is goods, and no heading. */
export async function headOf(db: Db, first: readonly FileRow[], asking: Asking): Promise<TableHead> {
  const found = findHead(first, asking);
  const headings = first.find(({ row }) => row === found.headingRow)?.cells ?? [];
  const keys = headings.map((cell) => codeKey(readCellText(cell))).filter(Boolean);
  const { rows } = await sql`select from sku where code_key = any(${keys}::text[]) limit 1`.execute(db.q);
  return rows.length === 0 ? found : headBelow(first, 0, asking);
}

/** Matches columns by what stands below their headings: codes of the shop first, then what else only one field has. */
export async function headByValues(
  db: Db,
  first: readonly FileRow[],
  head: TableHead,
  names: Names,
): Promise<TableHead> {
  const withCodes = await codesByValue(db, first, head);
  const rows = first.filter(({ row }) => row > head.headingRow).slice(0, LOOKED_AT);
  const columns = matchByValues(
    withCodes.columns,
    rows.map(({ cells }) => cells),
    names,
  );
  return { ...withCodes, columns };
}

/**
 * Takes for the code the column whose values are codes of the shop, where the headings found none, or one that holds no
 * code of the shop at all: a supplier's own number may stand beside ours.
 */
async function codesByValue(db: Db, first: readonly FileRow[], head: TableHead): Promise<TableHead> {
  const below = first.filter(({ row }) => row > head.headingRow).slice(0, LOOKED_AT);
  const cells = below.flatMap((row) => row.cells.map((cell, i) => ({ i, key: codeKey(readCellText(cell)) })));
  const filled = cells.filter(({ i, key }) => key !== '' && i < head.columns.length);
  const { rows } = await sql<{ i: number; known: number; filled: number }>`
    select c.i, count(s.id)::int as known, count(*)::int as filled
    from unnest(${filled.map(({ i }) => i)}::int[], ${filled.map(({ key }) => key)}::text[]) as c (i, key)
    left join sku s on s.code_key = c.key
    group by c.i order by count(s.id) desc, c.i
  `.execute(db.q);
  const named = head.columns.findIndex(({ field }) => field === 'code');
  const [best] = rows;
  const isTold = named >= 0 && (rows.find(({ i }) => i === named)?.known ?? 0) > 0;
  if (isTold || !best || best.i === named || best.known * 2 < best.filled) return head;
  const columns = head.columns.map((column, i) => {
    if (i === best.i) return { ...column, field: 'code' as const, by: 'values' as const };
    return i === named ? { ...column, field: null, by: 'none' as const } : column;
  });
  return { ...head, columns };
}
