import { type Field } from '../../kinds/field.ts';
import { type Row } from '../../question/row.ts';

/** The rate of tax, in basis points, that is part of an amount of a field in a row; none of what is before tax. */
export const taxOf =
  ({ tax }: Field) =>
  (row: Row): bigint =>
    tax === 'with' ? BigInt(row.taxRate ?? '0') : 0n;
