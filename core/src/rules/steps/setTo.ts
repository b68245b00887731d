import { type Apply } from '../step.ts';

/** Sets the price, whatever it was. */
export const setTo: Apply<'set'> = (_price, { to }) => to;
