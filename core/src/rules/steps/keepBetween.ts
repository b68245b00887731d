import { isEditable } from '../../kinds/field.ts';
import { isAmount } from '../parts/amounts.ts';
import { value } from '../slots.ts';
import { stepKind } from '../step.ts';

/** Takes an amount that lies outside of two others to the nearer of them; what is empty stays so. */
export const keepBetween = stepKind({
  sentence: 'keep {field} between {least} and {greatest}',
  slots: { least: value, greatest: value },
  takes: (field) => isEditable(field) && isAmount(field),
  prepare: (_field, slots) => {
    const ends = [BigInt(slots.least), BigInt(slots.greatest)];
    const [least, greatest] = ends[0]! <= ends[1]! ? [ends[0]!, ends[1]!] : [ends[1]!, ends[0]!];
    return (value) => {
      if (value === null) return null;
      const amount = BigInt(value);
      return (amount < least ? least : amount > greatest ? greatest : amount).toString();
    };
  },
});
