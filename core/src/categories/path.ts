import { bad, good, type Result } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';

/** No range is laid out deeper than this; deeper paths in a file are nearly always a mistake in a column. */
export const DEEPEST_CATEGORY = 8;

/** A category as the tree needs it; `ancestors` from the root down, without itself. */
export interface Category {
  readonly id: string;
  readonly parent: string | null;
  readonly name: string;
  readonly place: number;
  /** What else it is called, or was before: names, and whole paths of what it took the place of. */
  readonly alsoCalled?: readonly string[] | undefined;
  /** Whether menus of the shop show it; so it is where nothing is said. */
  readonly inMenu?: boolean;
}

/** Reads `Ink > Bottled > Iron gall` into its steps; a literal `>` in a name is written `\>`. */
export function readCategoryPath(text: string): Result<string[]> {
  const value = text.trim();
  const steps = value.split(/(?<!\\)>/).map((step) => step.replaceAll('\\>', '>').replace(/\s+/g, ' ').trim());
  if (steps.some((step) => step === '')) return bad('category-empty-step', { value });
  if (steps.length > DEEPEST_CATEGORY) {
    return bad('category-too-deep', { value, expected: String(DEEPEST_CATEGORY) });
  }
  return good(steps);
}

/** The steps as a path for reading: `Ink > Bottled`. */
export function showCategoryPath(steps: readonly string[]): string {
  return steps.map((step) => step.replaceAll('>', '\\>')).join(' > ');
}

/** Steps as they are compared: without regard to case and accents. */
export function categoryPathKey(steps: readonly string[]): string {
  return steps.map(fold).join('\u001f');
}

/** A name within the category that it lies in, as it is compared; within none at the root. */
const keyWithin = (parent: string, name: string): string => `in ${parent}\u001f${fold(name)}`;

/** The category tree, ready to be asked for paths, names and what lies above. */
export class CategoryTree {
  private readonly byId: ReadonlyMap<string, Category>;
  private folded: ReadonlyMap<string, string> | undefined;
  private lasts: ReadonlyMap<string, readonly string[]> | undefined;
  private othersOnce: ReadonlyMap<string, string> | undefined;
  private readonly stepsOnce = new Map<string, readonly string[]>();

  constructor(readonly categories: readonly Category[]) {
    this.byId = new Map(categories.map((category) => [category.id, category]));
  }

  /** Made when it is first asked for, as the keys of names are. */
  private get idByPath(): ReadonlyMap<string, string> {
    return (this.folded ??= new Map(this.categories.map(({ id }) => [categoryPathKey(this.steps(id)), id])));
  }

  /** Categories by their own folded names, of which a shop may have many alike. */
  private get idsByLast(): ReadonlyMap<string, readonly string[]> {
    if (this.lasts) return this.lasts;
    const lasts = new Map<string, string[]>();
    for (const { id, name } of this.categories) {
      const key = fold(name);
      const alike = lasts.get(key);
      if (alike) alike.push(id);
      else lasts.set(key, [id]);
    }
    return (this.lasts = lasts);
  }

  /** Names from the root down to the category; none of one that is not there. */
  steps(id: string): readonly string[] {
    const known = this.stepsOnce.get(id);
    if (known) return known;
    const category = this.byId.get(id);
    if (!category) return [];
    const steps = category.parent === null ? [category.name] : [...this.steps(category.parent), category.name];
    this.stepsOnce.set(id, steps);
    return steps;
  }

  path(id: string): string {
    return showCategoryPath(this.steps(id));
  }

  /** The category of a path, or of what else it is called where none has that path. */
  findPath(steps: readonly string[]): string | undefined {
    return this.idByPath.get(categoryPathKey(steps)) ?? this.findOther(steps);
  }

  private findOther(steps: readonly string[]): string | undefined {
    if (this.others.size === 0) return undefined;
    const whole = this.others.get(categoryPathKey(steps));
    if (whole !== undefined) return whole;
    // Steps above it may be called otherwise too.
    const above = steps.length > 1 ? this.findPath(steps.slice(0, -1)) : '';
    return above === undefined ? undefined : this.others.get(keyWithin(above, steps.at(-1)!));
  }

  /**
   * Categories by what else they are called: by whole paths, and by names within what they lie in. Those that hang on one of them are
   * there by their own names, so that a path through an earlier name leads to them.
   */
  private get others(): ReadonlyMap<string, string> {
    if (this.othersOnce) return this.othersOnce;
    const others = new Map<string, string>();
    const isRenamed = this.categories.some(({ alsoCalled }) => (alsoCalled?.length ?? 0) > 0);
    if (isRenamed) for (const { id, parent, name } of this.categories) others.set(keyWithin(parent ?? '', name), id);
    for (const { id, parent, alsoCalled = [] } of isRenamed ? this.categories : [])
      for (const other of alsoCalled) {
        const read = readCategoryPath(other);
        const isPath = read.ok && read.value.length > 1;
        const key = isPath ? categoryPathKey(read.value) : keyWithin(parent ?? '', read.ok ? read.value[0]! : other);
        // A name that a category has wins.
        if (!others.has(key)) others.set(key, id);
      }
    return (this.othersOnce = others);
  }

  /** Ids of the categories that a written path means: the whole path, or else every category whose last steps it is. */
  meant(text: string): string[] {
    const read = readCategoryPath(text);
    if (!read.ok) return [];
    const whole = this.findPath(read.value);
    if (whole !== undefined) return [whole];
    const key = '\u001f' + categoryPathKey(read.value);
    const alike = this.idsByLast.get(fold(read.value.at(-1)!)) ?? [];
    return alike.filter((id) => categoryPathKey(this.steps(id)).endsWith(key));
  }

  /** The category and all above it. */
  within(id: string): string[] {
    const ids: string[] = [];
    for (let at: string | null | undefined = id; at; at = this.byId.get(at)?.parent) ids.push(at);
    return ids;
  }
}
