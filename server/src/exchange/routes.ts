import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type AppContext } from '../http/appContext.ts';
import { stream } from 'hono/streaming';
import { csvDownload, csvHeaders } from '../http/csvDownload.ts';
import { takeOut } from './takeOut.ts';
import { parsedTexts, sentName, serve } from '../http/route.ts';
import { chooseHeadings } from './chooseHeadings.ts';
import { beginReading, getImport, importRows, resultsFile } from './imports.ts';
import { checkSettings, importTitle } from './readImport.ts';
import { readShop } from '../asked/names.ts';
import { upload } from './upload.ts';

export function exchangeRoutes(app: Hono, { db, files, person, queue }: AppContext): void {
  app.post('/api/imports', async (c) => {
    const name = sentName(c.req.header('x-file-name'));
    const length = c.req.header('content-length');
    const announced = length === undefined ? undefined : Number(length);
    const body = c.req.raw.body as unknown as AsyncIterable<Uint8Array> | null;
    return c.json(await upload(db, files, person.id, name, announced, body));
  });
  serve(app, calls.getImport, ({ params }) => getImport(db, params.id));
  serve(app, calls.chooseHeadings, ({ params, body }) => chooseHeadings(db, files, params.id, body.headingRow));
  serve(app, calls.readImport, async ({ params, body }) => {
    checkSettings(body, (await readShop(db)).register);
    const work = await queue.add(person.id, 'import', async (tx) => {
      const fileName = await beginReading(tx, params.id);
      return { title: importTitle(fileName), data: { importId: params.id, settings: body } };
    });
    return { work };
  });
  serve(app, calls.getImportRows, ({ params, query }) => importRows(db, params.id, query));
  app.get(calls.takeOut.path, async (c) => {
    const asked = parsedTexts(calls.takeOut.query, c.req.query());
    const write = await takeOut(db, asked);
    const { name } = await readShop(db);
    csvHeaders(c, name, asked.encoding);
    return stream(c, (out) => write((piece) => out.write(piece)));
  });
  app.get('/api/imports/:id/results.csv', async (c) => {
    const { id } = parsedTexts(calls.getImport.params, c.req.param());
    const { fileName } = await getImport(db, id);
    return csvDownload(c, `${fileName.replace(/\.\w+$/, '')} results`, resultsFile(db, id));
  });
}
