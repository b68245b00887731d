import { type Import, refusalWords } from '@ivory/contract';
import { type Db } from '../db/connect.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { readShop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { headByValues } from './file/headByValues.ts';
import { fileOf, getImport } from './imports.ts';
import { type Delimiter, type Encoding } from './file/sniff.ts';
import { firstRows, headBelow, headColumns } from './file/tableHead.ts';

/** Takes another row of a file for its headings, as a person says; how it was read before no longer says how to read it. */
export async function chooseHeadings(db: Db, files: FileStore, id: string, headingRow: number): Promise<Import> {
  const file = await fileOf(db, id);
  if (file.state === 'reading') throw new Refusal('clash', refusalWords.exchange.readingHeadings);
  const first = await firstRows(files.get(file.file_key), file.encoding as Encoding, file.delimiter as Delimiter);
  const shop = await readShop(db);
  const head = await headByValues(db, first, headBelow(first, headingRow, shop), shop.names);
  await db.q
    .updateTable('import_file')
    .set({ ...headColumns(head), settings: null })
    .where('id', '=', id)
    .execute();
  return getImport(db, id);
}
