import { calls, refusalWords } from '@ivory/contract';
import { type Hono } from 'hono';
import { stream } from 'hono/streaming';
import { sql } from 'kysely';
import { type Db, type Tx } from '../db/connect.ts';
import { type AppContext } from '../http/appContext.ts';
import { lookedAtBy, seenAt } from '../http/lookedAt.ts';
import { serve } from '../http/route.ts';
import { Refusal } from '../refusal.ts';
import { feedText, outletSettings, tellOutlet, withFeed } from './feed.ts';
import { readOutlets } from './outlets.ts';

export function outletRoutes(app: Hono, { db, files, person, queue }: AppContext): void {
  serve(app, calls.getOutlets, ({ looked }) => readOutlets(notBefore(seenAt(db, looked), db), person.id));
  serve(app, calls.tellOutlet, ({ params, query, looked }) =>
    tellOutlet(refusePast(seenAt(db, looked)), params.id, query.sku),
  );
  app.get('/api/outlets/:id/file', async (c) => {
    const seen = refusePast(seenAt(db, lookedAtBy(c, c.req.query('moment'))));
    const id = c.req.param('id');
    const { fileName } = await outletSettings(seen, id);
    c.header('content-type', 'application/rss+xml; charset=utf-8');
    c.header('content-disposition', `attachment; filename="${fileName}"`);
    return stream(c, (out) =>
      withFeed(seen, id, seen.clock(), async (tx, feed) => {
        for await (const piece of feedText(tx, feed)) await out.write(piece);
      }),
    );
  });
  serve(app, calls.setOutlet, async ({ params, body }) => {
    const { numUpdatedRows } = await db.q
      .updateTable('outlet')
      .set({ settings: JSON.stringify(body) })
      .where('id', '=', params.id)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) throw new Refusal('not found', refusalWords.outlets.noSuchOutlet);
    return {};
  });
  serve(app, calls.deliver, async ({ params, body }) => {
    const work = await queue.add(person.id, 'deliver', async (tx) => {
      const outlet = await tx.q
        .selectFrom('outlet')
        .selectAll()
        .where('id', '=', params.id)
        .forUpdate()
        .executeTakeFirst();
      if (!outlet) throw new Refusal('not found', refusalWords.outlets.noSuchOutlet);
      await refuseUnderWay(tx, params.id, outlet.name);
      const title = `${body.handOver ? 'Delivery to' : 'Feed file for'} ${outlet.name}`;
      return { title, data: { outlet: params.id, handOver: body.handOver } };
    });
    return { work };
  });
  app.get('/api/deliveries/:id/file', async (c) => {
    const id = c.req.param('id');
    const row = /^\d{1,18}$/.test(id)
      ? await db.q
          .selectFrom('delivery')
          .select(['file_key', 'file_name', 'bytes'])
          .where('id', '=', id)
          .executeTakeFirst()
      : undefined;
    if (!row || (await files.stat(row.file_key)) === undefined)
      throw new Refusal('not found', refusalWords.outlets.noSuchFile);
    c.header('content-type', 'application/rss+xml; charset=utf-8');
    c.header('content-length', row.bytes);
    c.header('content-disposition', `attachment; filename="${row.file_name}"`);
    return stream(c, async (out) => {
      for await (const bytes of files.get(row.file_key) as AsyncIterable<Uint8Array>) await out.write(bytes);
    });
  });
}

/** What was ready at a past moment is not on record: then it is told as of now, and the page says so. */
const notBefore = (seen: Db, now: Db): Db => (seen.isPast ? now : seen);

function refusePast(seen: Db): Db {
  if (seen.isPast) throw new Refusal('not valid', refusalWords.outlets.notTold);
  return seen;
}

/** Pressed twice, a file is written and handed over once. */
async function refuseUnderWay(tx: Tx, outlet: string, name: string): Promise<void> {
  const { rows } = await sql`
    select from work where kind = 'deliver' and state in ('waiting', 'running') and data->>'outlet' = ${outlet} limit 1
  `.execute(tx.q);
  if (rows.length > 0) throw new Refusal('clash', refusalWords.outlets.deliveryUnderWay(name));
}
