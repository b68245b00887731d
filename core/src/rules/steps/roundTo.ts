import { endingOf, toEnding } from '../../money/endings.ts';
import { type Apply } from '../step.ts';

/** Takes the price to an ending such as .99; a tie between two goes up. */
export const roundTo: Apply<'round to'> = (price, { ending, direction }, currency) =>
  toEnding(price, endingOf(ending, currency), direction);
