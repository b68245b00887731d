import { money, type Money } from '@ivory/core';

/** An amount as the database gives it; nothing where there is none. */
export const amountOf = (text: string | null | undefined): Money | null => (text == null ? null : money(BigInt(text)));
