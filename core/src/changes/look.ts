/** A thing to look at in a proof, as a bit of a line's flags. Some stop the landing, the others only tell. */
export interface Look {
  readonly key: LookKey;
  readonly bit: number;
  readonly stops: boolean;
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
] as const;
export type LookKey = (typeof LOOK_KEYS)[number];

const STOPPING: readonly LookKey[] = ['code in use'];

export const LOOKS: readonly Look[] = LOOK_KEYS.map((key, index) => ({
  key,
  bit: 1 << index,
  stops: STOPPING.includes(key),
}));

export const lookBit = (key: LookKey): number => 1 << LOOK_KEYS.indexOf(key);
export const looksOf = (flags: number): LookKey[] =>
  LOOKS.filter(({ bit }) => (flags & bit) !== 0).map(({ key }) => key);
/** The bits of what stops a landing. */
export const STOPPING_BITS = LOOKS.filter(({ stops }) => stops).reduce((bits, { bit }) => bits | bit, 0);
