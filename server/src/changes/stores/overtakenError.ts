/** Thrown inside the landing's transaction when a line's `before` does not hold any more. */
export class OvertakenError extends Error {}
