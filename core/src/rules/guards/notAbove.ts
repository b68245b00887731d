import { againstField } from '../parts/againstField.ts';

/** An amount does not rise above another field of its row. */
export const notAbove = againstField(
  '{field} never above {other}',
  'regular price',
  (amount, limit) => amount <= limit,
);
