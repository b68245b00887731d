import { type Problem } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';
import { readCategoryPath, showCategoryPath } from './path.ts';

/** What a text with a category in each line came to. */
export interface PathList {
  /** Whole paths, as `showCategoryPath` writes them, each once, in the order of the lines. */
  readonly paths: readonly string[];
  /** Lines that are no path; their row counts from 1. */
  readonly problems: readonly Problem[];
}

/**
 * Reads categories from text with one in each line: written as `Ink > Bottled`, in columns (one step in each, as a spreadsheet is copied),
 * or as an outline, where each tab before a name repeats a step of the line above. Blank lines are left out, and so is a first line that
 * is only one of `headings`.
 *
 * @example readPathList('Ink\n\tBottled\n\tCartridges').paths // ['Ink', 'Ink > Bottled', 'Ink > Cartridges']
 */
export function readPathList(text: string, headings: readonly string[] = []): PathList {
  const paths = new Map<string, string>();
  const problems: Problem[] = [];
  let above: readonly string[] = [];
  for (const [i, line] of text.split(/\r\n|\r|\n/).entries()) {
    if (line.trim() === '' || (i === 0 && isHeading(line, headings))) continue;
    const cells = line.trimEnd().split('\t');
    const repeated = cells.findIndex((cell) => cell.trim() !== '');
    const read = readCategoryPath(
      [...above.slice(0, repeated).map((step) => showCategoryPath([step])), ...cells.slice(repeated)].join(' > '),
    );
    if (repeated > above.length) problems.push({ code: 'category-empty-step', value: line.trim(), row: String(i + 1) });
    else if (!read.ok) problems.push({ ...read.problem, row: String(i + 1) });
    else {
      above = read.value;
      const path = showCategoryPath(read.value);
      if (!paths.has(fold(path))) paths.set(fold(path), path);
    }
  }
  return { paths: [...paths.values()], problems };
}

/** Whether a line holds nothing but what a column of categories is called, numbered or not: `Category`, `Category 1 → Category 2`. */
function isHeading(line: string, headings: readonly string[]): boolean {
  const called = new Set(headings.map(fold));
  return line
    .trim()
    .split('\t')
    .every((cell) => called.has(fold(cell.replace(/\d+\s*$/, ''))));
}
