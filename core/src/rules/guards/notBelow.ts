import { againstField } from '../parts/againstField.ts';

/** An amount does not fall below another field of its row. */
export const notBelow = againstField('{field} never below {other}', 'cost', (amount, limit) => amount >= limit);
