import { calls, refusalWords } from '@ivory/contract';
import { type Hono } from 'hono';
import { stream } from 'hono/streaming';
import { type AppContext } from '../http/appContext.ts';
import { sentName, serve } from '../http/route.ts';
import { Refusal } from '../refusal.ts';
import { fetchPicture } from './fetchPicture.ts';
import { attachedFile, keepFile } from './files.ts';
import { keepPicture } from './pictures.ts';
import { askForRenditions, renditionOf, type Size } from './renditions.ts';

/** `<key>.webp` is the rendition of the middle size, `<key>-small.webp` one of another, `<key>` the original as it came. */
const FILE = /^([0-9a-f]{64})(?:(?:-(small|large))?\.webp)?$/;
/** Which bytes an original has never changes; what a size is may be set otherwise. */
const FOR_GOOD = 'public, max-age=31536000, immutable';
const FOR_AN_HOUR = 'public, max-age=3600';

export function pictureRoutes(app: Hono, { db, files, queue, person, fetchesFrom, log }: AppContext): void {
  const keep = async (name: string, bytes: AsyncIterable<Uint8Array>) => {
    const kept = await keepPicture(db, files, name, bytes);
    // That its sizes wait to be asked for is no reason to refuse it.
    if (kept.isNew)
      await askForRenditions(db, queue, person.id).catch((error: unknown) => log.warn({ err: error }, 'renditions'));
    return kept;
  };
  serve(app, calls.fetchPicture, async ({ body }) => {
    const { name, bytes } = await fetchPicture(body.address, fetchesFrom);
    return keep(name, bytes);
  });
  app.get('/pictures/:file', async (c) => {
    const file = c.req.param('file');
    const [, key = '', written] = FILE.exec(file) ?? [];
    const isOriginal = file === key;
    const found = isOriginal ? key : await renditionOf(db, files, key, (written ?? 'middle') as Size);
    const bytes = found === undefined ? undefined : await files.stat(found);
    if (!found || bytes === undefined) throw new Refusal('not found', refusalWords.pictures.noSuchPicture);
    c.header('etag', `"${found}"`);
    c.header('cache-control', isOriginal ? FOR_GOOD : FOR_AN_HOUR);
    if (c.req.header('if-none-match') === `"${found}"`) return c.body(null, 304);
    // An original is handed out to be kept, never to be run by whoever opens it.
    c.header('content-type', isOriginal ? 'application/octet-stream' : 'image/webp');
    if (isOriginal) c.header('content-disposition', 'attachment');
    c.header('content-length', String(bytes));
    return stream(c, async (out) => {
      for await (const piece of files.get(found) as AsyncIterable<Uint8Array>) await out.write(piece);
    });
  });
  app.get('/files/:key', async (c) => {
    const key = c.req.param('key');
    const file = await attachedFile(db, key);
    if (!file || (await files.stat(key)) === undefined)
      throw new Refusal('not found', refusalWords.pictures.noSuchFile);
    c.header('content-type', file.type);
    c.header('content-disposition', `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`);
    c.header('content-length', String(file.bytes));
    c.header('cache-control', FOR_GOOD);
    return stream(c, async (out) => {
      for await (const piece of files.get(key) as AsyncIterable<Uint8Array>) await out.write(piece);
    });
  });
  app.post('/api/files', async (c) => {
    const name = sentName(c.req.header('x-file-name'), 'file');
    const body = c.req.raw.body as unknown as AsyncIterable<Uint8Array> | null;
    if (!body) throw new Refusal('not valid', refusalWords.pictures.fileEmpty(name));
    return c.json(await keepFile(db, files, name, body));
  });
  // A picture comes as its bytes, with its name in a header, as files do.
  app.post('/api/pictures', async (c) => {
    const name = sentName(c.req.header('x-file-name'), 'picture');
    const body = c.req.raw.body as unknown as AsyncIterable<Uint8Array> | null;
    if (!body) throw new Refusal('not valid', refusalWords.pictures.fileEmpty(name));
    return c.json(await keep(name, body));
  });
}
