import { isEditable } from '../../kinds/field.ts';
import { wholeNumber } from '../slots.ts';
import { failed, stepKind } from '../step.ts';

/** The days of year 1 and 9999, since 1970. */
const [FIRST, LAST] = [-719_162, 2_932_896];

/** Moves a date by days, back where they are less than nothing; what is empty stays so. */
export const moveByDays = stepKind({
  sentence: 'move {field} by {days} days',
  slots: { days: wholeNumber(-36_500, 36_500, '7') },
  takes: (field) => isEditable(field) && field.type === 'date',
  prepare: (_field, { days }) => {
    const by = Number(days);
    return (value) => {
      if (value === null) return null;
      const moved = Number(value) + by;
      return moved < FIRST || moved > LAST ? failed('out of range') : String(moved);
    };
  },
});
