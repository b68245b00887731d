import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { csvRows } from './csvRows.ts';
import { sniffDelimiter, sniffEncoding } from './sniff.ts';

async function rowsOf(bytes: Uint8Array): Promise<string[][]> {
  const encoding = sniffEncoding(bytes);
  const delimiter = sniffDelimiter(new TextDecoder(encoding).decode(bytes));
  const rows: string[][] = [];
  for await (const { cells } of csvRows(Readable.from([bytes]), encoding, delimiter)) rows.push(cells);
  return rows;
}

describe('reading CSV (RFC 4180)', () => {
  const folder = join(dirname(createRequire(import.meta.url).resolve('csv-spectrum')), 'csvs');

  for (const name of readdirSync(folder)) {
    // The expected rows of this one contradict its own file.
    if (!name.endsWith('.csv') || name.startsWith('location_coordinates')) continue;
    it(`gives what csv-spectrum expects of ${name}`, async () => {
      const expected = JSON.parse(
        readFileSync(join(folder, '..', 'json', name.replace('.csv', '.json')), 'utf8'),
      ) as Record<string, string>[];
      const [headings, ...rows] = await rowsOf(readFileSync(join(folder, name)));
      const read = rows.map((cells) => Object.fromEntries(cells.map((cell, i) => [headings![i]!, cell])));
      expect(read).toEqual(expected);
    });
  }

  it('keeps a character that is divided between two pieces of a file', async () => {
    const bytes = Buffer.from('name,x\nCrème,1\n');
    const at = bytes.indexOf(0xc3) + 1;
    const rows = [];
    for await (const { cells } of csvRows(Readable.from([bytes.subarray(0, at), bytes.subarray(at)]), 'utf-8', ','))
      rows.push(cells);
    expect(rows[1]).toEqual(['Crème', '1']);
  });

  it('counts blank rows as a spreadsheet does', async () => {
    const numbers = [];
    for await (const { row } of csvRows(Readable.from([Buffer.from('a,b\n\n1,2\n,\n3,"x\ny"\n4,5\n')]), 'utf-8', ','))
      numbers.push(row);
    expect(numbers).toEqual([1, 3, 5, 6]);
  });
});

describe('the delimiter', () => {
  it('is the one that divides the first lines most evenly', () => {
    expect(sniffDelimiter('a;b;c\n1,5;2;3\n')).toBe(';');
    expect(sniffDelimiter('a\tb\n1, 2, 3\t4\n')).toBe('\t');
    expect(sniffDelimiter('"a;b",c\n"d;e;f",g\n')).toBe(',');
  });
});
