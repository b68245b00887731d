import { type BuiltInKey } from '../kinds/keys.ts';

/** A thing to look at in a proof, as a bit of a line's flags. Some stop the landing, the others only tell. */
interface Look {
  readonly key: LookKey;
  readonly bit: number;
}

export const LOOK_KEYS = [
  'below cost',
  'below floor',
  'large change',
  'changed since',
  'code in use',
  'known elsewhere',
  'no price',
  'stock below zero',
  'no reduction',
  'not below before',
  'price of nothing',
  'limit gone',
  'GTIN twice',
  'thing gone',
] as const;
export type LookKey = (typeof LOOK_KEYS)[number];

export const LOOKS: readonly Look[] = LOOK_KEYS.map((key, index) => ({ key, bit: 1 << index }));

export const lookBit = (key: LookKey): number => 1 << LOOK_KEYS.indexOf(key);
export const looksOf = (flags: number): LookKey[] =>
  LOOKS.filter(({ bit }) => (flags & bit) !== 0).map(({ key }) => key);

/** What the shop decides of: the field of the shop that says whether it stops a landing. */
export const STOPS_BY = {
  'below cost': 'stopsBelowCost',
  'below floor': 'stopsBelowFloor',
  'large change': 'stopsLargeChange',
  'no price': 'stopsNoPrice',
  'known elsewhere': 'stopsKnownElsewhere',
  'stock below zero': 'stopsBelowZero',
} as const satisfies Partial<Record<LookKey, BuiltInKey>>;
export type DecidedLook = keyof typeof STOPS_BY;
export const DECIDED_LOOKS = Object.keys(STOPS_BY) as readonly DecidedLook[];

/** The bits of what stops a landing: a code in use and a thing that is gone always do, all else where the shop says so. */
export const stoppingBits = (stops: Readonly<Record<DecidedLook, boolean>>): number =>
  DECIDED_LOOKS.filter((key) => stops[key]).reduce((bits, key) => bits | lookBit(key), ALWAYS_STOPS);
/**
 * The bits of what stops a landing until a person agrees to it, line by line: a price of nothing is never ordinary (domain of prices), and a
 * limit that goes opens to everybody, or for good, what was for some or for a time.
 */
export const ASKS = lookBit('price of nothing') | lookBit('limit gone');
/** Whether a look stops a landing until a person agrees. */
export const asksFor = (key: LookKey): boolean => (lookBit(key) & ASKS) !== 0;
/** The bits of what stops every landing. */
export const ALWAYS_STOPS = lookBit('code in use') | lookBit('thing gone');
/** The bits of what landings mark in proofs that wait; examinations leave them alone. */
export const MARKED_BY_LANDINGS = lookBit('changed since') | lookBit('thing gone');
