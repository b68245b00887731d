import { type ProofSummary } from '@ivory/contract';
import { words } from '../words/en.ts';
import { whole } from '../words/numbers.ts';

/** A proof in one line: its changes, and on how many goods. */
export function comesTo(proof: ProofSummary): string {
  return [words.proofBar.changes(whole(proof.lines)), onWhat(proof)].filter(Boolean).join(` ${words.proofBar.on} `);
}

/** On how many SKUs and products it has changes. */
export const onWhat = ({ skus, newSkus, products }: ProofSummary): string =>
  [
    ...(skus > 0 ? [words.proofBar.onSkus(whole(skus))] : []),
    ...(newSkus > 0 ? [words.proofBar.onNewSkus(whole(newSkus))] : []),
    ...(products > 0 ? [words.proofBar.onProducts(whole(products))] : []),
  ].join(', ');
