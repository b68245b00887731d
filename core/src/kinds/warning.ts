import { type BuiltInKey } from './keys.ts';

/** A thing to look at in a proof, as a bit of a line's flags. Some stop the landing, the others only tell. */
interface Warning {
  readonly key: WarningKey;
  readonly bit: number;
}

export const WARNING_KEYS = [
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
export type WarningKey = (typeof WARNING_KEYS)[number];

export const WARNINGS: readonly Warning[] = WARNING_KEYS.map((key, index) => ({ key, bit: 1 << index }));

export const warningBit = (key: WarningKey): number => 1 << WARNING_KEYS.indexOf(key);
export const warningsOf = (flags: number): WarningKey[] =>
  WARNINGS.filter(({ bit }) => (flags & bit) !== 0).map(({ key }) => key);

/** What the shop decides of: the field of the shop that says whether it stops a landing. */
export const STOPS_BY = {
  'below cost': 'stopsBelowCost',
  'below floor': 'stopsBelowFloor',
  'large change': 'stopsLargeChange',
  'no price': 'stopsNoPrice',
  'known elsewhere': 'stopsKnownElsewhere',
  'stock below zero': 'stopsBelowZero',
} as const satisfies Partial<Record<WarningKey, BuiltInKey>>;
export type DecidedWarning = keyof typeof STOPS_BY;
export const DECIDED_WARNINGS = Object.keys(STOPS_BY) as readonly DecidedWarning[];

/** The bits that stop a landing: a code in use and a thing gone always do, others where the shop says so. */
export const stoppingBits = (stops: Readonly<Record<DecidedWarning, boolean>>): number =>
  DECIDED_WARNINGS.filter((key) => stops[key]).reduce((bits, key) => bits | warningBit(key), ALWAYS_STOPS);
/**
 * The bits of what stops a landing until a person agrees to it, line by line: a price of nothing is never ordinary (domain of prices), and a
 * limit that is removed opens a price to everybody, or for good.
 */
export const ASKS = warningBit('price of nothing') | warningBit('limit gone');
/** Whether a look stops a landing until a person agrees. */
export const asksFor = (key: WarningKey): boolean => (warningBit(key) & ASKS) !== 0;
/** The bits of what stops every landing. */
export const ALWAYS_STOPS = warningBit('code in use') | warningBit('thing gone');
/** The bits that landings set in waiting proofs; examinations leave them alone. */
export const MARKED_BY_LANDINGS = warningBit('changed since') | warningBit('thing gone');
