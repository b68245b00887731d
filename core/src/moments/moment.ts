declare const momentBrand: unique symbol;
/** An instant in milliseconds since 1970 UTC. Nothing in `core` reads the clock: a moment is always given. */
export type Moment = number & { readonly [momentBrand]: true };

/** A day of a calendar without a zone, in milliseconds: days of clock changes are shorter or longer. */
export const DAY_MS = 86_400_000;

/** Year 2200: whatever is planned or looked at later is a slip of the finger. */
export const LATEST_MOMENT_MS = Date.UTC(2200, 0);

export const momentOf = (ms: number): Moment => ms as Moment;
