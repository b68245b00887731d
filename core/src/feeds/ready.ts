import { plain, type Compare, type Question } from '../question/tree.ts';
import { REFUSING_GAPS } from './profile.ts';

const asks = (field: Compare['field'], comparison: Compare['comparison'], value: string): Question => ({
  kind: 'compare',
  field,
  comparison,
  values: [value],
});
const not = (of: Question): Question => ({ kind: 'not', of });
const all = (...of: Question[]): Question => plain({ kind: 'all', of });

/** What is offered: goods that shoppers can see. The question says what `availability` answers for these. */
export const OFFERED = all(
  asks('stage', 'is', 'On sale'),
  not(all(asks('stock', '<=', '0'), asks('whenOut', 'is', 'hide it'))),
);

/** Goods that are offered, and have a gap. */
export const offeredWith = (gap: string): Question => all(OFFERED, asks('gap', 'is', gap));

/** What goes into the file of an outlet: offered, and with nothing that the outlet would refuse. */
export const READY = all(OFFERED, ...REFUSING_GAPS.map((gap) => not(asks('gap', 'is', gap))));

const noneOn = (outlet: string): Question => ({
  kind: 'compare',
  field: `onOutlet@${outlet}`,
  comparison: 'is empty',
  values: [],
});
/** The same for one outlet: its formula leaves them a price there. */
export const readyOn = (outlet: string): Question => all(READY, not(noneOn(outlet)));

/** Goods that are offered and have a price, of which the formula of an outlet leaves less than nothing there. */
export const withoutPriceOn = (outlet: string): Question =>
  all(OFFERED, not(asks('gap', 'is', 'no price')), noneOn(outlet));
