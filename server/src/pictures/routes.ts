import { type Hono } from 'hono';
import { stream } from 'hono/streaming';
import { type House } from '../http/house.ts';
import { Refusal } from '../refusal.ts';

export function pictureRoutes(app: Hono, { files }: House): void {
  app.get('/pictures/:file', async (c) => {
    const key = c.req.param('file').replace(/\.webp$/, '');
    const bytes = await files.stat(key);
    if (bytes === undefined) throw new Refusal('not found', 'There is no such picture.');
    c.header('content-type', 'image/webp');
    c.header('content-length', String(bytes));
    c.header('cache-control', 'public, max-age=31536000, immutable');
    return stream(c, async (out) => {
      for await (const piece of files.get(key) as AsyncIterable<Uint8Array>) await out.write(piece);
    });
  });
}
