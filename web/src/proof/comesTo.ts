import { type ProofSummary } from '@ivory/contract';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** A proof in one line: its changes, and on how many goods. */
export function comesTo({ lines, skus, newSkus, products }: ProofSummary): string {
  const on = [
    ...(skus > 0 ? [words.proofBar.onSkus(whole(skus))] : []),
    ...(newSkus > 0 ? [words.proofBar.onNewSkus(whole(newSkus))] : []),
    ...(products > 0 ? [words.proofBar.onProducts(whole(products))] : []),
  ];
  return [words.proofBar.changes(whole(lines)), on.join(', ')].filter(Boolean).join(` ${words.proofBar.on} `);
}
