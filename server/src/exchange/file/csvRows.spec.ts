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
  for await (const batch of csvRows(Readable.from([bytes]), encoding, delimiter))
    rows.push(...batch.map(({ cells }) => cells));
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
    for await (const batch of csvRows(Readable.from([bytes.subarray(0, at), bytes.subarray(at)]), 'utf-8', ','))
      rows.push(...batch.map(({ cells }) => cells));
    expect(rows[1]).toEqual(['Crème', '1']);
  });

  it('counts blank rows as a spreadsheet does', async () => {
    const numbers = [];
    const file = Readable.from([Buffer.from('a,b\n\n1,2\n,\n3,"x\ny"\n4,5\n')]);
    for await (const batch of csvRows(file, 'utf-8', ',')) numbers.push(...batch.map(({ row }) => row));
    expect(numbers).toEqual([1, 3, 5, 6]);
  });
});

describe('a long CSV', () => {
  it('gives every row once, in order, however it is divided', async () => {
    const rows = Array.from({ length: 30_000 }, (_, i) => `A-${i},"Ink, no. ${i}",${i % 7 === 0 ? '"two\nlines"' : i}`);
    const bytes = Buffer.from(['code,name,note', ...rows].join('\n'));
    const parts = function* () {
      for (let at = 0; at < bytes.length; at += 10_007) yield bytes.subarray(at, at + 10_007);
    };
    const read = [];
    for await (const batch of csvRows(Readable.from(parts()), 'utf-8', ',')) read.push(...batch);
    expect(read.length).toBe(30_001);
    expect(
      read.every(({ row, cells }, i) => row === i + 1 && (i === 0 || cells[1] === `Ink, no. ${i - 1}`)),
    ).toBeTrue();
  });
});

describe('a CSV that is not well formed', () => {
  const read = async (...parts: string[]) => {
    const rows = [];
    for await (const batch of csvRows(Readable.from(parts.map((part) => Buffer.from(part))), 'utf-8', ','))
      rows.push(...batch.map(({ row, cells }) => `${row}:${cells.join('/')}`));
    return rows;
  };

  it('names the row in which a quote is left open, wherever the file is divided', async () => {
    await expectAsync(read('a,b\n1,2\n3,"4\n5,', '6\n7,8\n')).toBeRejectedWithError(/opened in row 3 and never closed/);
    await expectAsync(read('a,b\n1,2\n', '3,4\n5,"6\n', '7,8')).toBeRejectedWithError(/opened in row 4 /);
  });

  it('names the row in which something follows a closing quote', async () => {
    await expectAsync(read('a,b\n1,2\n', '3,"4"x\n')).toBeRejectedWithError(/within a cell in row 3/);
  });

  it('refuses a row without end before it has taken all of a file in', async () => {
    let given = 0;
    const endless = function* () {
      yield Buffer.from('a,b\n1,"');
      for (; given < 100; given++) yield Buffer.from('x'.repeat(100_000));
    };
    const rows = csvRows(Readable.from(endless()), 'utf-8', ',');
    await expectAsync(
      (async () => {
        for await (const batch of rows) expect(batch.length).toBeGreaterThan(0);
      })(),
    ).toBeRejectedWithError(/Row 2 is longer than a row can be/);
    expect(given).toBeLessThan(50);
  });

  it('takes a quote in an unquoted cell, as inches are written, for what it is', async () => {
    expect(await read('code,name\nA,5" nib\nB,6" nib\n')).toEqual(['1:code/name', '2:A/5" nib', '3:B/6" nib']);
  });
});

describe('the delimiter', () => {
  it('is the one that divides the first lines most evenly', () => {
    expect(sniffDelimiter('a;b;c\n1,5;2;3\n')).toBe(';');
    expect(sniffDelimiter('a\tb\n1, 2, 3\t4\n')).toBe('\t');
    expect(sniffDelimiter('"a;b",c\n"d;e;f",g\n')).toBe(',');
    expect(sniffDelimiter('Prices, in euros, autumn\n\na;b\n1,5;2,5\n1,5;2\n')).toBe(';');
  });
});
