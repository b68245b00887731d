import { CategoryTree, type Field, type Line, readCategoryPath, readText } from '@ivory/core';
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
  const paths = edits.filter(({ kind, field }) => fields.get(`${kind} ${field}`)?.refersTo?.kind === 'category');
  const ids = new NewIds(tx, 'category', 1);
  const lines: Line[] = [];
  let { categories } = shop.names;
  let made = 0;
  for (const path of paths.flatMap(({ text }) => text.split('|'))) {
    const read = readCategoryPath(path);
    // A name alone may mean a category that lies deeper.
    if (!read.ok || categories.meant(path).length > 0 || !read.value.every((step) => readText(step).ok)) continue;
    for (let depth = 1; depth <= read.value.length; depth++) {
      const steps = read.value.slice(0, depth);
      if (categories.findPath(steps) !== undefined) continue;
      const [id, name] = [await ids.next(), steps.at(-1)!];
      const parent = depth === 1 ? null : categories.findPath(steps.slice(0, -1))!;
      const place = placeBehind(made++);
      categories = new CategoryTree([...categories.categories, { id, parent, name, place }]);
      const line = (field: Line['field'], after: string) =>
        lines.push({ kind: 'category', id, field, scope: '0', before: null, after });
      line('exists', parent ?? '');
      line('name', name);
      line('place', String(place));
    }
  }
  if (lines.length > 0) await takeInLines(tx, proof, edit, lines);
  return { ...shop, names: { ...shop.names, categories } };
}
