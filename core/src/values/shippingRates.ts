import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { money, plainMoney, readMoney } from '../money/money.ts';
import { type Destination, type ShippingRate } from '../prices/shipping.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';
import { entriesOf, joinEntries, readEntries } from './divided.ts';
import { grams } from './numbers.ts';
import { nameOfCountry, readCountry } from './standards.ts';
import { type ValueType } from './valueType.ts';

const MOST_RATES = 500;
const REST = 'rest of the world';
/** Nothing is said of it. */
const NONE = '-';
const EXPECTED = 'Ireland up to 2 kg: 5.00; each further 2.00; free from 60.00';

/** The rates of a canonical text: `IE 2000 500 200 6000|* - 900 300 -`, amounts in minor units and weights in grams. */
export const shippingRatesOf = (value: string): ShippingRate[] =>
  value.split('|').map((entry) => {
    const [to, upTo, first, further, freeFrom] = entry.split(' ') as [string, string, string, string, string];
    return {
      to: destinationOf(to),
      upTo: upTo === NONE ? null : Number(upTo),
      first: money(BigInt(first)),
      further: money(BigInt(further)),
      freeFrom: freeFrom === NONE ? null : money(BigInt(freeFrom)),
    };
  });

function destinationOf(key: string): Destination {
  if (key === '*') return { in: 'rest' };
  return /^g\d/.test(key) ? { in: 'group', id: key.slice(1) } : { in: 'country', code: key };
}

/** What a destination is called. */
export function nameOfDestination(to: Destination, { names }: Asking): string {
  if (to.in === 'rest') return REST;
  if (to.in === 'country') return nameOfCountry(to.code);
  return names.lists.get('countryGroup')?.byId.get(to.id) ?? `group ${to.id}, which is gone`;
}

function readDestination(text: string, { names }: Asking): Result<string> {
  const key = fold(text);
  if (key === REST || key === 'elsewhere' || key === 'all others') return good('*');
  for (const [id, name] of names.lists.get('countryGroup')?.byId ?? []) if (fold(name) === key) return good(`g${id}`);
  const country = readCountry(text);
  return country.ok ? country : bad('destination-unknown', { value: text, expected: REST });
}

/** The cells of an entry: where to, up to which weight, for the first piece, for each further one, from which sum of goods nothing. */
function cellsOf(entry: string): string[] {
  const [, to = entry, first = '', rest = ''] = /^(.+?):\s*([^;]*)(?:;\s*(.*))?$/.exec(entry) ?? [];
  const [, place = to, upTo = ''] = /^(.+?)\s+up to\s+(.+)$/i.exec(to) ?? [];
  const [, further = ''] = /each further\s+([^;]+)/i.exec(rest) ?? [];
  const [, freeFrom = ''] = /free from\s+([^;]+)/i.exec(rest) ?? [];
  return [place, upTo, first, further, freeFrom].map((cell) => cell.trim());
}

const entryOf = ([to = '', upTo = '', first = '', further = '', freeFrom = '']: readonly string[]): string =>
  `${to}${upTo === '' ? '' : ` up to ${upTo}`}: ${first}` +
  (further === '' ? '' : `; each further ${further}`) +
  (freeFrom === '' ? '' : `; free from ${freeFrom}`);

/** One entry in canonical text. */
function readRate(entry: string, field: Field, asking: Asking): Result<string> {
  const { currency, numberStyle } = asking.names;
  const [place, upTo, first, further, freeFrom] = cellsOf(entry) as [string, string, string, string, string];
  const to = readDestination(place, asking);
  if (!to.ok) return to;
  const weight = upTo === '' ? good(NONE) : grams.read(upTo, field, asking);
  if (!weight.ok) return weight;
  const amounts: string[] = [];
  for (const text of [first, further === '' ? first : further, freeFrom]) {
    if (text === '' && amounts.length === 2) {
      amounts.push(NONE);
      continue;
    }
    const amount = /^(free|nothing)$/i.test(text) ? good(money(0n)) : readMoney(text, currency, numberStyle);
    if (!amount.ok || amount.value < 0n) return bad('shipping-unreadable', { value: entry, expected: EXPECTED });
    amounts.push(String(amount.value));
  }
  return good([to.value, weight.value, ...amounts].join(' '));
}

/** What it costs to ship by a profile, destination by destination. Each further piece costs as much as the first where nothing else is said. */
export const shippingRates: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is empty', 'is filled'],
  usual: 'is filled',
  table: {
    columns: ['destination', 'upTo', 'first', 'further', 'freeFrom'],
    needs: ['destination', 'first'],
    short: ['upTo', 'first', 'further', 'freeFrom'],
    rowsOf: (text) => entriesOf(text).map(cellsOf),
    textOf: (rows) => joinEntries(rows.filter((cells) => cells.some((cell) => cell.trim() !== '')).map(entryOf)),
  },
  read: (text, field, asking) => {
    const entries = readEntries(text, MOST_RATES);
    if (!entries.ok) return entries;
    const read: string[] = [];
    const known = new Set<string>();
    for (const entry of entries.value) {
      const rate = readRate(entry, field, asking);
      if (!rate.ok) return rate;
      const [to, upTo] = rate.value.split(' ');
      if (known.has(`${to} ${upTo}`)) return bad('rate-twice', { value: entry });
      known.add(`${to} ${upTo}`);
      read.push(rate.value);
    }
    return good(read.join('|'));
  },
  show: (value, field, asking) => joinEntries(shippingRatesOf(value).map((rate) => showRate(rate, field, asking))),
  holds: () => false,
  namesWithin: (value, kind) =>
    kind === 'countryGroup' ? shippingRatesOf(value).flatMap(({ to }) => (to.in === 'group' ? [to.id] : [])) : [],
};

/** A rate as it is typed. */
export function showRate({ to, upTo, first, further, freeFrom }: ShippingRate, field: Field, asking: Asking): string {
  const { currency } = asking.names;
  return entryOf([
    nameOfDestination(to, asking),
    upTo === null ? '' : grams.show(String(upTo), field, asking),
    plainMoney(first, currency),
    further === first ? '' : plainMoney(further, currency),
    freeFrom === null ? '' : plainMoney(freeFrom, currency),
  ]);
}
