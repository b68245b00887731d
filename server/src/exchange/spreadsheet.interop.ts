import { calls } from '@ivory/contract';
import { isTakenIn } from '@ivory/core';
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { readShop } from '../asked/names.ts';
import { startTestServer, type TestServer } from '../testing/index.ts';

const run = promisify(execFile);

/** Files that were opened and saved by a spreadsheet program of Debian's, without a screen: `npm run interop`. */
describe('goods that are taken out, opened and saved by a spreadsheet program, and brought back', () => {
  let server: TestServer;
  let folder: string;
  beforeAll(async () => {
    server = await startTestServer();
    folder = await mkdtemp(join(tmpdir(), 'ivory-interop-'));
    await server.set('product', '1', 'description', '<p>One,\ntwo</p><p>Three "quoted"; four</p>');
    await server.set('sku', '1', 'mpn', '000417');
    await server.land((await server.set('sku', '2', 'code', '00123')).id);
  });
  afterAll(async () => {
    await server.close();
    await rm(folder, { recursive: true, force: true });
  });

  /** Opens a file in the program and saves it as a workbook, and that as CSV again, as a person would. */
  async function savedBySpreadsheet(name: string, file: Buffer): Promise<Buffer> {
    await writeFile(join(folder, `${name}.csv`), file);
    const profile = `-env:UserInstallation=file://${folder}/profile`;
    const convert = (to: string, from: string, filter: string[] = []) =>
      run('soffice', [profile, '--headless', ...filter, '--convert-to', to, '--outdir', folder, join(folder, from)]);
    // Comma, double quote, UTF-8, from the first line.
    await convert('xlsx:Calc MS Excel 2007 XML', `${name}.csv`, ['--infilter=CSV:44,34,76,1']);
    await convert('csv:Text - txt - csv (StarCalc):44,34,76,1', `${name}.xlsx`);
    return readFile(join(folder, `${name}.csv`));
  }

  async function broughtBack(file: Buffer) {
    const { id, columns } = await server.upload('back.csv', file);
    const body = {
      ...{
        columns: columns.map(({ field }) => field),
        decimalSign: '.' as const,
        makeProducts: false,
        makeNames: false,
      },
      ...{ joinVariants: true, productColumn: null },
    };
    const { work } = await server.call(calls.readImport, { params: { id }, body });
    await server.finished(work);
    return (await server.call(calls.getImport, { params: { id } })).counts!;
  }

  for (const digits of ['plain', 'text'] as const) {
    it(`change nothing, with codes of digits ${digits === 'text' ? 'kept as text' : 'as they are'}`, async () => {
      const { register } = await readShop(server.db);
      const fields = register.goods.filter((field) => isTakenIn(field)).map(({ key }) => key);
      const query = new URLSearchParams({ columns: fields.join(','), digits });
      const file = Buffer.from(await (await server.fetch(`/api/take-out.csv?${query}`)).arrayBuffer());
      const counts = await broughtBack(await savedBySpreadsheet(`out-${digits}`, file));
      expect([counts.new, counts.changed, counts.refused]).toEqual([0, 0, 0]);
      expect(counts.same).toBe((await server.call(calls.answerQuestion, { body: { question: '' } })).counts.skus);
    }, 300_000);
  }
});
