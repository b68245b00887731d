import { type Context } from 'hono';
import { stream } from 'hono/streaming';

/** Answers with a CSV file of the name, written as its pieces come. */
export function csvDownload(c: Context, name: string, pieces: AsyncIterable<string>): Response {
  c.header('content-type', 'text/csv; charset=utf-8');
  c.header('content-disposition', `attachment; filename="${name.replace(/[^\w .-]/g, '_').slice(0, 120)}.csv"`);
  return stream(c, async (out) => {
    for await (const piece of pieces) await out.write(piece);
  });
}
