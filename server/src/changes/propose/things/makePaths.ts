import { type BodyOf, type calls, refusalWords } from '@ivory/contract';
import { type Problem, readCategoryPath, readText, showCategoryPath } from '@ivory/core';
import { askingOfProof } from '../../../asked/askingOfProof.ts';
import { type Db, inTransaction } from '../../../db/connect.ts';
import { Refusal } from '../../../refusal.ts';
import { examineAfter } from '../../examine/examinations.ts';
import { beginEdit, handProof } from '../../proof/proof.ts';
import { takeInLines } from '../takeIn.ts';
import { missingCategories } from './makeMissingCategories.ts';

type Making = BodyOf<typeof calls.makePaths>;

/**
 * Proposes the categories of paths as one edit: each step that the shop does not have, from the top down, below `into` where that is said.
 * Gives how many are made and how many of the paths were there. Refuses all of it where one is no path, or where `into` is gone.
 */
export async function makePaths(
  db: Db,
  person: string,
  { paths, into }: Making,
): Promise<{ readonly made: number; readonly there: number }> {
  return inTransaction(db, async (tx) => {
    const proof = await handProof(tx, person);
    const asking = await askingOfProof(tx, proof);
    const tree = asking.names.categories;
    const above = into === null ? [] : tree.steps(into);
    if (into !== null && above.length === 0) throw new Refusal('clash', refusalWords.changes.parentGone);
    const problems: Problem[] = [];
    const steps = paths.flatMap((path, i) => {
      const read = readCategoryPath([...above.map((step) => showCategoryPath([step])), path].join(' > '));
      const unread = read.ok ? read.value.map((step) => readText(step)).find(({ ok }) => !ok) : read;
      if (unread && !unread.ok) problems.push({ ...unread.problem, row: String(i + 1) });
      return read.ok ? [read.value] : [];
    });
    if (problems.length > 0) throw new Refusal('not valid', refusalWords.changes.nothingTakenIn, problems.slice(0, 20));
    const there = steps.filter((path) => tree.findPath(path) !== undefined).length;
    const { lines, made } = await missingCategories(tx, tree, steps, 'whole');
    if (made === 0) throw new Refusal('not valid', refusalWords.changes.allThere(there));
    const edit = await beginEdit(tx, proof, made === 1 ? 'New category' : `${made} new categories`);
    await takeInLines(tx, proof, edit, lines);
    await examineAfter(tx, proof, asking, lines);
    return { made, there };
  });
}
