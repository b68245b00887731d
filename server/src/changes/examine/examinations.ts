import { type KindKey } from '@ivory/core';
import { firstRow } from '../../db/firstRow.ts';
import { type Tx } from '../../db/connect.ts';
import { type Shop } from '../../asked/names.ts';
import { plannedForLines } from '../proof/many.ts';
import { examineCodes, examineMoneyLines, examineStock, examineTaxRates } from './examineProof.ts';
import { followGone } from './followGone.ts';
import { examineGtins } from './examineGtins.ts';
import { examineLimits, LIMITS } from './examineLimits.ts';
import { RATE_FIELDS } from './moneyRows.ts';
import { examineOutletPrices } from './outletPrices.ts';
import { examineSalePrices, examineStandingSales } from './salePrices.ts';
import { examineStandingOutlets } from './standingOutlets.ts';

/** What an examination needs of the shop. */
export type Examined = Pick<Shop, 'settings' | 'timeZone'>;

/** A line that changed, by its kind and field. */
export interface Woken {
  readonly kind: string;
  readonly field: string;
}

/** One way of looking a proof over. What it marks is decided by the lines of the proof and by what stands in the shop, by nothing else. */
interface Examination {
  /** Whether lines of a field may change what there is to look at. */
  readonly wokenBy: (line: Woken) => boolean;
  /** Examines the proof, or what the lines of some SKUs may have changed. */
  readonly examine: (tx: Tx, proof: string, shop: Examined, only?: readonly string[]) => Promise<void>;
}

const isMoney = ({ kind, field }: Woken): boolean => kind === 'sku' && ['price', 'cost', 'exists'].includes(field);
const isTax = ({ kind, field }: Woken): boolean =>
  (kind === 'product' && RATE_FIELDS.includes(field)) || (kind === 'taxClass' && field !== 'name');
const isOfSale = ({ kind, field }: Woken): boolean => field === 'salePrice' || kind === 'sale';
const OF_OUTLETS: readonly string[] = ['outlet', 'priceFormula'] satisfies KindKey[];

const isOfOutlet = ({ kind, field }: Woken): boolean => field === 'outletPrice' || OF_OUTLETS.includes(kind);
/** What sales and outlets make of prices and costs is marked on the lines of these: what wakes one of the three wakes all. */
const isPriced = (line: Woken): boolean => isMoney(line) || isTax(line) || isOfSale(line) || isOfOutlet(line);

/** Warnings of a single price or cost. It runs first, because it clears earlier marks. */
const MONEY: Examination = {
  wokenBy: isPriced,
  examine: (tx, proof, { settings }, only) => examineMoneyLines(tx, proof, settings, only),
};

/** What sales and outlets that stand make of other prices and costs. */
const STANDING_SALES: Examination = { wokenBy: isPriced, examine: examineStandingSales };
const STANDING_OUTLETS: Examination = {
  wokenBy: isPriced,
  examine: (tx, proof, _, only) => examineStandingOutlets(tx, proof, only),
};

/** Every examination. A new one is a file beside this one and an entry here; proposers know none by name. */
const EXAMINATIONS: readonly Examination[] = [
  MONEY,
  {
    wokenBy: (line) => isMoney(line) || isTax(line),
    examine: (tx, proof, { settings }) => examineTaxRates(tx, proof, settings),
  },
  { wokenBy: ({ kind, field }) => kind === 'sku' && field === 'stock', examine: examineStock },
  { wokenBy: ({ kind, field }) => kind === 'sku' && (field === 'gtin' || field === 'exists'), examine: examineGtins },
  { wokenBy: ({ kind, field }) => LIMITS.includes(`${kind} ${field}`), examine: examineLimits },
  { wokenBy: ({ kind, field }) => kind === 'sku' && (field === 'code' || field === 'exists'), examine: examineCodes },
  STANDING_SALES,
  { wokenBy: isPriced, examine: examineSalePrices },
  { wokenBy: isPriced, examine: examineOutletPrices },
  STANDING_OUTLETS,
];

/** Whether there may be something to look at about a line. */
export const isExamined = (line: Woken): boolean => EXAMINATIONS.some(({ wokenBy }) => wokenBy(line));

/** Looks a whole proof over, and writes down what there is to look at. "Changed since" is the landing's to say, and stays. */
export async function examineProof(tx: Tx, proof: string, shop: Examined): Promise<void> {
  await tx.q
    .updateTable('proof')
    .set(({ fn }) => ({ examined: fn<string>('pg_current_snapshot') }))
    .where('id', '=', proof)
    .execute();
  await plannedForLines(tx, proof, async () => {
    for (const { examine } of EXAMINATIONS) await examine(tx, proof, shop);
  });
}

/**
 * Looks a proof of nothing but prices and costs over, where each of them was looked at by itself while it was written, as is done for
 * a hundred thousand of them.
 */
export async function examineBesideMoney(tx: Tx, proof: string, shop: Examined): Promise<void> {
  await plannedForLines(tx, proof, async () => {
    for (const { examine } of [STANDING_SALES, STANDING_OUTLETS]) await examine(tx, proof, shop);
  });
}

/**
 * Looks over what some lines, which were written into a proof or taken out of it, may have changed. Where all of them are of SKUs, these
 * alone are looked at where that is enough.
 */
export async function examineAfter(
  tx: Tx,
  proof: string,
  shop: Examined,
  lines: readonly (Woken & { readonly id: string })[],
): Promise<void> {
  const woken = [...new Map(lines.map((line) => [`${line.kind} ${line.field}`, line])).values()];
  const skus = woken.every(({ kind }) => kind === 'sku') ? [...new Set(lines.map(({ id }) => id))] : undefined;
  for (const { wokenBy, examine } of EXAMINATIONS) if (woken.some(wokenBy)) await examine(tx, proof, shop, skus);
}

/** Landings commit out of the order of their ids, but not by so many. */
const LATEST_LANDINGS = 200;

/**
 * Examines a proof anew where something landed since that was done: what stops a landing depends on what stands in the shop, and on its
 * settings, which are changed by landings too. What it refers to follows first; gives how many lines were left out as that is gone.
 */
export async function examineWhenStale(tx: Tx, proof: string, shop: Examined): Promise<number> {
  const { rows } = await tx.client.query<{ since: number; takes_away: boolean }>(
    `select count(*)::int as since, coalesce(bool_or(exists (
       select from journal_chunk c where c.landing_id = g.id and c.field = 'exists' and array_position(c.after, null) is not null
     )), false) as takes_away
     from proof p join (select id, xid from landing order by id desc limit $2) g on not pg_visible_in_snapshot(g.xid, p.examined)
     where p.id = $1`,
    [proof, LATEST_LANDINGS],
  );
  const { since, takes_away: takesAway } = firstRow(rows);
  if (since === 0) return 0;
  // Most landings take nothing away; of what landed before these it is not known.
  const gone = takesAway || since >= LATEST_LANDINGS ? (await followGone(tx, proof)).gone : 0;
  await examineProof(tx, proof, shop);
  return gone;
}
