import { type Context } from 'hono';
import { stream } from 'hono/streaming';

/** Says that the answer is a CSV file of the name. */
export function csvHeaders(c: Context, name: string, encoding: 'utf-8' | 'utf-16le' = 'utf-8'): void {
  c.header('content-type', `text/csv; charset=${encoding}`);
  c.header('content-disposition', `attachment; filename="${name.replace(/[^\w .-]/g, '_').slice(0, 120)}.csv"`);
}

/** Answers with a CSV file of the name, written as its pieces come. */
export function csvDownload(c: Context, name: string, pieces: AsyncIterable<string>): Response {
  csvHeaders(c, name);
  return stream(c, async (out) => {
    for await (const piece of pieces) await out.write(piece);
  });
}
