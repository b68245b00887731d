import { type Problem } from '@ivory/core';

/** Everything that a part of the business may refuse with; turned into an answer in one place. */
export type RefusalKind = 'not found' | 'not valid' | 'clash' | 'too large' | 'not allowed' | 'busy';

/** A refusal that a person can do something about: what is wrong, and where. */
export class Refusal extends Error {
  constructor(
    readonly kind: RefusalKind,
    message: string,
    readonly places: readonly Problem[] = [],
  ) {
    super(message);
  }
}
