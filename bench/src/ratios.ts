import { type Figure } from './figures.ts';

/** What a row of the bench comes to: our time, by the raw work beside it or, where it has none, by the yardstick of the same run. */
export type Ratios = ReadonlyMap<string, number>;

/** Numbers in the names of rows are counts of a run, by which no two runs agree. */
const withoutNumbers = (work: string): string =>
  work.replaceAll(/(?<![\p{L}\d])\d+(?:[,.]\d+)*/gu, 'N').replaceAll(';', ',');

/** The ratio of each row, under a name of its own: a row that is *the same* has the name of the one that it follows before it. */
export function ratiosOf(part: string, figures: readonly Figure[], yardstick: number): Ratios {
  const ratios = new Map<string, number>();
  let first = '';
  for (const { work, ours, raw } of figures) {
    const isSame = /^the same\b/.test(work);
    if (!isSame) first = work;
    const name = withoutNumbers(`${part}: ${isSame ? `${first} > ${work}` : work}`);
    ratios.set(name, Number((ours / (raw ?? yardstick)).toPrecision(3)));
  }
  return ratios;
}

/** A row that takes longer than it may, or more than a quarter longer than it took when it was last noted. */
export interface Fallen {
  readonly row: string;
  readonly ratio: number;
  readonly than: number;
  readonly why: 'above its limit' | 'slower than before';
}
const MORE = 1.25;
/** What takes less than a hundredth of the yardstick is a matter of a millisecond, which is noise. */
const LEAST = 0.01;

/** The rows that fell. A row that neither limits nor history know is not judged. */
export function fallenOf(ratios: Ratios, limits: Ratios, last: Ratios | undefined): Fallen[] {
  const fallen: Fallen[] = [];
  for (const [row, ratio] of ratios) {
    const limit = limits.get(row);
    const before = last?.get(row);
    if (limit !== undefined && ratio > limit) fallen.push({ row, ratio, than: limit, why: 'above its limit' });
    else if (before !== undefined && ratio > Math.max(before * MORE, LEAST))
      fallen.push({ row, ratio, than: before, why: 'slower than before' });
  }
  return fallen;
}

/** A line of the history: `| commit | machine | row = ratio; row = ratio |`. */
export const historyLine = (commit: string, machine: string, ratios: Ratios): string =>
  `| ${commit} | ${machine} | ${[...ratios].map(([row, ratio]) => `${row} = ${ratio}`).join('; ')} |`;

/** The ratios of the last line that a machine of the same kind wrote; undefined where none did. */
export function lastOf(history: string, machine: string): Ratios | undefined {
  const line = history.split('\n').findLast((one) => one.split(' | ')[1] === machine);
  if (line === undefined) return undefined;
  const cells = line.replace(/ \|$/, '').split(' | ')[2]!.split('; ');
  return new Map(
    cells.flatMap((cell) => {
      const [, row, ratio] = /^(.*) = ([\d.e+-]+)$/.exec(cell) ?? [];
      return row === undefined ? [] : [[row, Number(ratio)] as const];
    }),
  );
}
