import { fold } from '../words/fold.ts';

/** The values of a variant by its options, as they are written; an option that it has not is left out. */
export type Combination = ReadonlyMap<string, string>;

/** More options than a product may have. */
export const MOST_OPTIONS = 5;
/** More SKUs than a product may have. */
export const MOST_VARIANTS = 2_000;

export interface AddedOption {
  readonly option: string;
  /** Values that are added to those that variants have already. */
  readonly values: readonly string[];
  /** What the variants that are there get, where the product has not had the option. */
  readonly given?: string;
}

export interface Grid {
  /** The combinations that are new. */
  readonly made: readonly Combination[];
  /** What the variants that are there get of options that the product has not had. */
  readonly given: Combination;
}

export interface Lacking {
  /** The combinations that the product gets, each with a value of every option. */
  readonly made: readonly Combination[];
  /** What the variant of a product without options becomes. */
  readonly given: Combination;
}

/** What tells combinations apart: their values of these options, in any letter case. */
export const combinationKey = (combination: Combination, options: readonly string[]): string =>
  options.map((option) => fold(combination.get(option) ?? '')).join('|');

/** Each value once, as it was written first. */
function distinct(values: readonly string[]): string[] {
  const found = new Map<string, string>();
  for (const value of values.map((one) => one.trim()))
    if (value !== '' && !found.has(fold(value))) found.set(fold(value), value);
  return [...found.values()];
}

/**
 * What becomes of the grid of a product when values are added to its options: every combination of its values that has at least
 * one of the added, and is not there yet. Combinations that were left out before stay left out. The variants that are there keep
 * what they have; of an option that is new to the product they get `given`, or else its first value.
 */
export function growGrid(present: readonly Combination[], added: readonly AddedOption[]): Grid {
  const had = distinct(present.flatMap((combination) => [...combination.keys()]));
  const growing = added.filter(({ values, given }) => distinct(values).length > 0 || given !== undefined);
  const given = new Map<string, string>();
  for (const { option, values, given: chosen } of growing)
    if (!had.includes(option) && present.length > 0) given.set(option, chosen ?? distinct(values)[0]!);
  const options = distinct([...had, ...growing.map(({ option }) => option)]);
  const standing = present.map((combination): Combination => new Map([...combination, ...given]));
  const taken = new Set(standing.map((combination) => combinationKey(combination, options)));
  const axes = options.map((option) => {
    const before = distinct(standing.flatMap((combination) => combination.get(option) ?? []));
    const more = distinct(growing.find((one) => one.option === option)?.values ?? []).filter(
      (value) => !before.some((one) => fold(one) === fold(value)),
    );
    return { option, before, more };
  });
  let cells: { readonly combination: Combination; readonly isNew: boolean }[] = [
    { combination: new Map(), isNew: false },
  ];
  for (const { option, before, more } of axes) {
    const values = [
      ...before.map((value) => ({ value, isNew: false })),
      ...more.map((value) => ({ value, isNew: true })),
    ];
    if (values.length === 0) continue;
    cells = cells.flatMap(({ combination, isNew }) =>
      values.map((one) => ({
        combination: new Map(combination).set(option, one.value),
        isNew: isNew || one.isNew,
      })),
    );
    if (cells.length > MOST_VARIANTS * 2) break;
  }
  const made = cells
    .filter(({ combination, isNew }) => isNew && !taken.has(combinationKey(combination, options)))
    .map(({ combination }) => combination);
  return { made, given };
}

/**
 * What a product lacks of the combinations that another has. A product without options has one variant, which becomes the first of
 * them. Undefined where the product varies by other options, which would leave its variants without a value of some.
 */
export function lackingOf(wanted: readonly Combination[], present: readonly Combination[]): Lacking | undefined {
  const options = distinct(wanted.flatMap((combination) => [...combination.keys()]));
  const had = distinct(present.flatMap((combination) => [...combination.keys()]));
  if (had.length === 0) return { made: wanted.slice(1), given: wanted[0] ?? new Map<string, string>() };
  if (had.length !== options.length || had.some((option) => !options.includes(option))) return undefined;
  const taken = new Set(present.map((combination) => combinationKey(combination, options)));
  return { made: wanted.filter((combination) => !taken.has(combinationKey(combination, options))), given: new Map() };
}
