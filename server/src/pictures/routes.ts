import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { stream } from 'hono/streaming';
import { type House } from '../http/house.ts';
import { sentName, serve } from '../http/route.ts';
import { Refusal } from '../refusal.ts';
import { fetchPicture } from './fetchPicture.ts';
import { attachedFile, keepFile } from './files.ts';
import { keepPicture, renditionOf } from './pictures.ts';
import { RENDITIONS } from './readPicture.ts';

const MIDDLE = 500;
/** `<key>.webp` is the rendition of a middle size, `<key>-160.webp` one of that size, `<key>` the original as it came. */
const FILE = /^([0-9a-f]{64})(?:(?:-(\d{1,5}))?\.webp)?$/;

export function pictureRoutes(app: Hono, { db, files, fetchesFrom }: House): void {
  serve(app, calls.fetchPicture, async ({ body }) => {
    const { name, bytes } = await fetchPicture(body.address, fetchesFrom);
    return keepPicture(db, files, name, bytes);
  });
  app.get('/pictures/:file', async (c) => {
    const file = c.req.param('file');
    const [, key = '', written] = FILE.exec(file) ?? [];
    const size = RENDITIONS.find((one) => one === Number(written ?? MIDDLE));
    const isOriginal = file === key;
    const found = isOriginal ? key : size && (await renditionOf(db, files, key, size));
    const bytes = found === undefined ? undefined : await files.stat(found);
    if (!found || bytes === undefined) throw new Refusal('not found', 'There is no such picture.');
    // An original is handed out to be kept, never to be run by whoever opens it.
    c.header('content-type', isOriginal ? 'application/octet-stream' : 'image/webp');
    if (isOriginal) c.header('content-disposition', 'attachment');
    c.header('content-length', String(bytes));
    c.header('cache-control', 'public, max-age=31536000, immutable');
    return stream(c, async (out) => {
      for await (const piece of files.get(found) as AsyncIterable<Uint8Array>) await out.write(piece);
    });
  });
  app.get('/files/:key', async (c) => {
    const key = c.req.param('key');
    const file = await attachedFile(db, key);
    if (!file || (await files.stat(key)) === undefined) throw new Refusal('not found', 'There is no such file.');
    c.header('content-type', file.type);
    c.header('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`);
    c.header('content-length', String(file.bytes));
    c.header('cache-control', 'public, max-age=31536000, immutable');
    return stream(c, async (out) => {
      for await (const piece of files.get(key) as AsyncIterable<Uint8Array>) await out.write(piece);
    });
  });
  app.post('/api/files', async (c) => {
    const name = sentName(c.req.header('x-file-name'), 'file');
    const body = c.req.raw.body as unknown as AsyncIterable<Uint8Array> | null;
    if (!body) throw new Refusal('not valid', `“${name}” was not taken: it is empty.`);
    return c.json(await keepFile(db, files, name, body));
  });
  // A picture comes as its bytes, with its name in a header, as files do.
  app.post('/api/pictures', async (c) => {
    const name = sentName(c.req.header('x-file-name'), 'picture');
    const body = c.req.raw.body as unknown as AsyncIterable<Uint8Array> | null;
    if (!body) throw new Refusal('not valid', `“${name}” was not taken: it is empty.`);
    return c.json(await keepPicture(db, files, name, body));
  });
}
