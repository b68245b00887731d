import { type Field, isEditable } from './field.ts';
import { KINDS } from './kinds.ts';
import { type Register } from './register.ts';

/** The fields that stand beside a row in hand, in their order, besides those that the shop makes. */
export const slipFields = ({ goods }: Pick<Register, 'goods'>): readonly Field[] =>
  goods.filter(({ inSlip }) => inSlip !== undefined).sort((a, b) => a.inSlip! - b.inSlip!);

/**
 * The fields in which variants of a product can differ besides its options: what is kept of each SKU itself, but for its code, for what sets alone
 * have, and for prices in one sale or on one outlet.
 */
export const variantFields = ({ goods }: Pick<Register, 'goods'>): readonly Field[] =>
  goods.filter(
    (field) =>
      field.kind === 'sku' &&
      isEditable(field) &&
      field.key !== KINDS.sku.namedBy &&
      field.store.in !== 'scoped' &&
      !field.own &&
      !field.notInRows &&
      !field.ofSets,
  );
