/**
 * The rows and cells of text copied from a spreadsheet: divided by tabs, cells with line breaks or tabs in quotes.
 * The grid's own reading would divide a quoted cell at its line breaks.
 */
export function pastedRows(text: string): string[][] {
  const rows: string[][] = [[]];
  const cell = /(?:^|\t|\r?\n)(?:"((?:[^"]|"")*)"(?=\t|\r?\n|$)|([^\t\r\n]*))/gy;
  const body = text.replace(/\r?\n$/, '');
  let at = 0;
  while (at <= body.length) {
    cell.lastIndex = at;
    const match = cell.exec(body);
    if (!match) break;
    if (at > 0 && match[0].startsWith('\n')) rows.push([]);
    else if (at > 0 && match[0].startsWith('\r\n')) rows.push([]);
    rows.at(-1)!.push(match[1] !== undefined ? match[1].replaceAll('""', '"') : (match[2] ?? ''));
    if (cell.lastIndex === at) break;
    at = cell.lastIndex;
  }
  return rows;
}

/** The first cells of pasted rows, without blanks around them, and without those that are blank. */
export const pastedColumn = (text: string): string[] =>
  pastedRows(text)
    .map(([first = '']) => first.trim())
    .filter(Boolean);

/** The text of a block for a spreadsheet; read by `pastedRows` it is the block again. */
export function copiedText(rows: readonly (readonly string[])[]): string {
  const cell = (text: string) => (/["\t\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
  return rows.map((cells) => cells.map(cell).join('\t')).join('\n');
}
