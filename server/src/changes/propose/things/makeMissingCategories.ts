import {
  type Category,
  categoryPathKey,
  CategoryTree,
  type Field,
  type Line,
  readCategoryPath,
  readText,
  showCategoryPath,
} from '@ivory/core';
import { type Tx } from '../../../db/connect.ts';
import { type Shop } from '../../../asked/names.ts';
import { type Typed } from './makeMissingNames.ts';
import { NewIds } from '../newIds.ts';
import { takeInLines } from '../takeIn.ts';

/** The place of a category, `made` of which came before it at once: behind all that there is, with room between, so that a move is one line. */
export const placeBehind = (made: number): number => 100_000 + 16 * made;

/**
 * Categories that a cell names by their paths and the shop does not have are made with it, from the top down. Gives the shop with them.
 * What is no path is refused later, with its cell.
 */
export async function makeMissingCategories(
  tx: Tx,
  proof: string,
  edit: number,
  edits: readonly Typed[],
  fields: ReadonlyMap<string, Field>,
  shop: Shop,
): Promise<Shop> {
  const cells = edits.filter(({ kind, field }) => fields.get(`${kind} ${field}`)?.refersTo?.kind === 'category');
  const paths = cells
    .flatMap(({ text }) => text.split('|'))
    .map(readCategoryPath)
    .flatMap((read) => (read.ok && read.value.every((step) => readText(step).ok) ? [read.value] : []));
  const { categories, lines } = await missingCategories(tx, shop.names.categories, paths, 'last steps');
  if (lines.length > 0) await takeInLines(tx, proof, edit, lines);
  return { ...shop, names: { ...shop.names, categories } };
}

/**
 * The tree with each step of the paths that is not in it, and the lines that make these. Paths are whole, or may be the last steps of one that
 * is there or was made by a path before: a name alone may mean a category that lies deeper.
 */
export async function missingCategories(
  tx: Tx,
  tree: CategoryTree,
  paths: readonly (readonly string[])[],
  are: 'whole' | 'last steps',
): Promise<{ readonly categories: CategoryTree; readonly lines: readonly Line[]; readonly made: number }> {
  const ids = new NewIds(tx, 'category', Math.max(1, paths.length));
  const lines: Line[] = [];
  const made = new Map<string, Category>();
  const find = (steps: readonly string[]) => made.get(categoryPathKey(steps))?.id ?? tree.findPath(steps);
  const isMeant = (path: readonly string[]) =>
    tree.meant(showCategoryPath(path)).length > 0 ||
    [...made.keys()].some((key) => `\u001f${key}`.endsWith(`\u001f${categoryPathKey(path)}`));
  for (const path of paths) {
    if (are === 'last steps' && isMeant(path)) continue;
    for (let depth = 1; depth <= path.length; depth++) {
      const steps = path.slice(0, depth);
      if (find(steps) !== undefined) continue;
      const [id, name] = [await ids.next(), steps.at(-1)!];
      const parent = depth === 1 ? null : find(steps.slice(0, -1))!;
      const place = placeBehind(made.size);
      made.set(categoryPathKey(steps), { id, parent, name, place });
      const line = (field: Line['field'], after: string) =>
        lines.push({ kind: 'category', id, field, scope: '0', before: null, after });
      line('exists', parent ?? '');
      line('name', name);
      line('place', String(place));
    }
  }
  return { categories: new CategoryTree([...tree.categories, ...made.values()]), lines, made: made.size };
}
