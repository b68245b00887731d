import { type ProofSummary, type ShownLine } from '@ivory/contract';
import { KINDS } from '@ivory/core';
import { words } from '../words/en.ts';

/** What a line is about: its field; of a line that makes or takes away a thing, what thing. */
export const lineWords = ({ field, kind, called }: Pick<ShownLine, 'field' | 'kind' | 'called'>): string =>
  field === 'exists' ? `${KINDS[kind].one}, ${called}` : called;

/** A field that has lines, with its kind where that is not goods. */
export function fieldWords({ kind, field, called }: Omit<ProofSummary['fields'][number], 'lines'>): string {
  const { one, many } = KINDS[kind];
  if (field === 'exists') return `${many}: ${words.proof.madeOrGone}`;
  return kind === 'product' || kind === 'sku' ? called : `${one}: ${called}`;
}
