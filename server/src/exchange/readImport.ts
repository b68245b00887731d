import { type Import, type ImportSettings, type Work, refusalWords } from '@ivory/contract';
import { type FieldKey, isEditable, type Register } from '@ivory/core';
import { beginEdit, discardWhenOpen } from '../changes/proof/proof.ts';
import { planForMany } from '../db/planForMany.ts';
import { MANY_LINES } from '../changes/proof/many.ts';
import { examineProof } from '../changes/examine/examinations.ts';
import { sql } from 'kysely';
import { type Db, inTransaction, type Tx } from '../db/connect.ts';
import { type Handler } from '../jobs/queue.ts';
import { nobodyWorksOn } from '../jobs/work.ts';
import { type FileStore } from '../pictures/fileStore.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { keepCells } from './file/keepCells.ts';
import { matchRows, refuseUnfit } from './match/matchRows.ts';
import { type JoinedBy, placeRows, refuseContradictions } from './match/placeRows.ts';
import { compareRows, keepOutcomes, writeLines } from './match/proposeImport.ts';
import { ImportNames } from './match/resolveNames.ts';
import { type Delimiter, type Encoding } from './file/sniff.ts';
import { restoreZeros } from './match/restoreZeros.ts';
import { refuseRepeated, stageRows } from './file/stage.ts';
import { takenFields } from './match/taken.ts';

/** Refuses settings that cannot work before any row is read. */
export function checkSettings({ columns }: ImportSettings, register: Register): void {
  const taken = columns.filter((column): column is FieldKey => column !== null);
  if (!taken.includes('code')) {
    throw new Refusal('not valid', refusalWords.exchange.noCodeColumn);
  }
  const twice = taken.find((column, i) => taken.indexOf(column) !== i);
  const unknown = taken.find((column) => !register.find(column));
  if (unknown) throw new Refusal('clash', refusalWords.exchange.fieldGone);
  if (twice) {
    const { name } = register.get(twice);
    throw new Refusal('not valid', refusalWords.exchange.sameFieldTwice(name));
  }
  const fixed = taken.map((column) => register.get(column)).find((field) => !isEditable(field));
  if (fixed) throw new Refusal('not valid', refusalWords.exchange.computedField(fixed.name));
  if (taken.length < 2) throw new Refusal('not valid', refusalWords.exchange.onlyCode);
}

interface Reading {
  readonly importId: string;
  readonly settings: ImportSettings;
}

/**
 * The work of reading an import: file to complete proof, in one transaction. Run again, it makes the proof anew; when it
 * fails, an earlier proof of the file is still there.
 */
export const readImportWork = (db: Db, files: FileStore): Handler => ({
  async perform({ importId, settings }: Reading, { person, report }) {
    return { result: await inTransaction(db, (tx) => readIn(tx, files, importId, settings, person, report)) };
  },
  undo: (tx, { importId }: Reading) => endReading(tx, sql`id = ${importId}`),
  undoLeft: (tx) => endReading(tx, nobodyWorksOn('import', 'importId', sql`import_file.id`)),
});

async function endReading(tx: Tx, which: ReturnType<typeof sql>): Promise<void> {
  await sql`
    update import_file set state = case when proof_id is null then 'uploaded' else 'read' end
    where state = 'reading' and ${which}`.execute(tx.q);
}

async function readIn(
  tx: Tx,
  files: FileStore,
  importId: string,
  settings: ImportSettings,
  person: string,
  report: (done: number, total: number | null) => Promise<void>,
): Promise<string> {
  const file = await tx.q
    .selectFrom('import_file')
    .selectAll()
    .where('id', '=', importId)
    .forUpdate()
    .executeTakeFirstOrThrow();
  if (file.state === 'read' && file.proof_id) return file.proof_id;
  const shop = await readShop(tx);
  const written = {
    open: () => files.get(file.file_key),
    encoding: file.encoding as Encoding,
    delimiter: file.delimiter as Delimiter,
    headingRow: file.heading_row,
  };
  const asking = { ...shop, names: { ...shop.names, numberStyle: { decimalSign: settings.decimalSign } } };
  const headings = (file.columns as Import['columns']).map(({ heading }) => heading);
  const columns = { taken: settings.columns, headings, product: settings.productColumn };
  const { rows, restored } = await stageRows(tx, written, columns, asking, (done) => report(done, null));
  // Between its statements too, somebody may have asked to stop.
  const goOn = () => report(rows, rows);
  const taken = takenFields(settings.columns, shop.register);
  const isLarge = rows > MANY_LINES;
  const { zeros, made, joined } = await matchStaged({ tx, taken, shop, settings, isLarge, restored, goOn });
  // With other columns, or beside what changed since, a file has one proof: the new one.
  if (file.proof_id) await discardWhenOpen(tx, file.proof_id);
  const proof = await makeProof(tx, person, importId, file.file_name);
  await writeLines(tx, proof, await beginEdit(tx, proof, file.file_name), taken, made, settings.stage);
  await goOn();
  await keepOutcomes(tx, importId, taken);
  await keepCells(tx, written, importId);
  await goOn();
  await examineProof(tx, proof, shop);
  await tx.q
    .updateTable('import_file')
    .set({
      state: 'read',
      proof_id: proof,
      settings: JSON.stringify(settings),
      joined_rows: joined.rows,
      joined_products: joined.products,
      zeros: zeros && JSON.stringify(zeros),
    })
    .where('id', '=', importId)
    .execute();
  await goOn();
  return proof;
}

interface Staged {
  readonly tx: Tx;
  readonly taken: ReturnType<typeof takenFields>;
  readonly shop: Shop;
  readonly settings: ImportSettings;
  readonly isLarge: boolean;
  readonly restored: Parameters<typeof restoreZeros>[3];
  /** Called between statements. */
  readonly goOn: () => Promise<void>;
}

/** Matches the staged rows with the goods and names of the shop, and refuses those that do not fit. */
async function matchStaged({ tx, taken, shop, settings, isLarge, restored, goOn }: Staged) {
  if (isLarge) await planForMany(tx);
  else await sql`analyze staged`.execute(tx.q);
  const zeros = await restoreZeros(tx, taken, shop.register, restored);
  await refuseRepeated(tx);
  const known = new ImportNames(tx, taken, shop, goOn);
  await known.lookUp();
  await matchRows(tx, taken, shop.register);
  if (!isLarge) await sql`analyze matched`.execute(tx.q);
  await goOn();
  await refuseUnfit(tx, taken, settings.makeProducts);
  const made = await known.settle(settings.makeNames);
  const joined = await placeRows(tx, taken, joinedBy(settings));
  await refuseContradictions(tx, taken);
  await goOn();
  await compareRows(tx, taken, shop.register);
  await goOn();
  return { zeros, made, joined };
}

/** By what new rows are told to be variants of one product. */
const joinedBy = ({ joinVariants, productColumn }: ImportSettings): JoinedBy =>
  productColumn !== null ? 'a column' : joinVariants ? 'likeness' : 'nothing';

async function makeProof(tx: Tx, person: string, importId: string, fileName: string): Promise<string> {
  const { id } = await tx.q
    .insertInto('proof')
    .values({
      person_id: person,
      kind: 'import',
      title: `Import of ${fileName}`,
      takes_back: null,
      import_id: importId,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** The title of the work, for the list of what is running. */
export const importTitle = (fileName: string): Work['title'] => `Reading ${fileName}`;
