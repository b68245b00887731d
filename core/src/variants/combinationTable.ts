import { fold } from '../words/fold.ts';
import { type Combination, combinationKey } from './grid.ts';

export interface CombinationRow {
  /** The values that all of a row have, in the order of the options. */
  readonly values: readonly string[];
  /** For each column: a combination that is there, one that would be made, or none. */
  readonly cells: readonly CombinationCell[];
}

export interface CombinationCell {
  readonly state: 'there' | 'made' | 'none';
  readonly key: string;
}

export interface CombinationTable {
  /** Values of the last option. */
  readonly columns: readonly string[];
  readonly rows: readonly CombinationRow[];
}

/** Each value once, in the order in which it comes first. */
function valuesOf(option: string, combinations: readonly Combination[]): string[] {
  const found = new Map<string, string>();
  for (const combination of combinations) {
    const value = combination.get(option);
    if (value !== undefined && !found.has(fold(value))) found.set(fold(value), value);
  }
  return [...found.values()];
}

/**
 * Combinations as a table: the last option across, all others down. Rows in which nothing would be made are left out. Combinations
 * without a value of one of the options have no place in it.
 */
export function combinationTable(
  present: readonly Combination[],
  made: readonly Combination[],
  options: readonly string[],
): CombinationTable {
  const across = options.at(-1);
  if (across === undefined) return { columns: [], rows: [] };
  const down = options.slice(0, -1);
  const all = [...present, ...made];
  const states = new Map<string, CombinationCell['state']>([
    ...made.map((one) => [combinationKey(one, options), 'made'] as const),
    ...present.map((one) => [combinationKey(one, options), 'there'] as const),
  ]);
  const columns = valuesOf(across, all);
  let lines: readonly Combination[] = [new Map()];
  for (const option of down) {
    const values = valuesOf(option, all);
    lines = lines.flatMap((line) => values.map((value): Combination => new Map([...line, [option, value]])));
  }
  const rows = lines.map((line): CombinationRow => ({
    values: down.map((option) => line.get(option)!),
    cells: columns.map((value) => {
      const key = combinationKey(new Map([...line, [across, value]]), options);
      return { key, state: states.get(key) ?? 'none' };
    }),
  }));
  return { columns, rows: rows.filter(({ cells }) => cells.some(({ state }) => state === 'made')) };
}

/** The keys of the combinations that have all of these values; an option that is not named may have any. */
export function keysHaving(
  combinations: readonly Combination[],
  options: readonly string[],
  wanted: Combination,
): ReadonlySet<string> {
  const has = (combination: Combination) =>
    [...wanted].every(([option, value]) => fold(combination.get(option) ?? '') === fold(value));
  return new Set(combinations.filter(has).map((one) => combinationKey(one, options)));
}
