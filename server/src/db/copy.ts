import { type CompiledQuery, type RawBuilder, type Kysely } from 'kysely';
import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { once } from 'node:events';
import { finished } from 'node:stream/promises';
import { type Tables } from './tables.ts';

const UNESCAPED: Readonly<Record<string, string>> = { n: '\n', t: '\t', r: '\r', b: '\b', f: '\f', v: '\v' };
const unescape = (text: string): string =>
  text.includes('\\') ? text.replace(/\\(.)/g, (_, mark: string) => UNESCAPED[mark] ?? mark) : text;
const escape = (text: string): string =>
  text.replace(/[\\\n\t\r]/g, (mark) =>
    mark === '\n' ? '\\n' : mark === '\t' ? '\\t' : mark === '\r' ? '\\r' : '\\\\',
  );

/** COPY takes no parameters; they are written in as literals, escaped by the driver. */
function withLiterals(query: CompiledQuery): string {
  return query.sql.replace(/\$(\d+)/g, (_, number: string) => literal(query.parameters[Number(number) - 1]));
}

function literal(value: unknown): string {
  if (value === null || value === undefined) return 'null';
  if (typeof value === 'number' || typeof value === 'boolean') return String(value);
  if (Array.isArray(value)) return `array[${value.map(literal).join(',')}]`;
  return pg.escapeLiteral(String(value));
}

/** Rows of a query in batches as they arrive; memory does not grow with the set. Values are text, `null` is null. */
export async function* copyOut(
  client: pg.ClientBase,
  q: Kysely<Tables>,
  query: RawBuilder<unknown>,
): AsyncGenerator<(string | null)[][]> {
  const stream = client.query(copyTo(`copy (${withLiterals(query.compile(q))}) to stdout`));
  stream.setEncoding('utf8');
  let rest = '';
  for await (const chunk of stream as AsyncIterable<string>) {
    const lines = (rest + chunk).split('\n');
    rest = lines.pop()!;
    if (lines.length > 0) {
      yield lines.map((line) => line.split('\t').map((cell) => (cell === '\\N' ? null : unescape(cell))));
    }
  }
}

const FLUSH_AT = 128 * 1024;

/** Writes rows into a table by COPY, with backpressure. */
export class CopyIn {
  private readonly stream;
  private buffer = '';
  rows = 0;

  constructor(client: pg.ClientBase, target: string) {
    this.stream = client.query(copyFrom(`copy ${target} from stdin`));
  }

  async write(row: readonly (string | number | boolean | null)[]): Promise<void> {
    this.rows++;
    this.buffer += row.map((cell) => (cell === null ? '\\N' : escape(String(cell)))).join('\t') + '\n';
    if (this.buffer.length < FLUSH_AT) return;
    const full = !this.stream.write(this.buffer);
    this.buffer = '';
    if (full) await once(this.stream, 'drain');
  }

  async end(): Promise<void> {
    this.stream.end(this.buffer);
    await finished(this.stream);
  }
}

/** A list as a PostgreSQL array literal for COPY. */
export function arrayLiteral(values: readonly (string | null)[]): string {
  return `{${values.map((value) => (value === null ? 'NULL' : `"${value.replace(/[\\"]/g, '\\$&')}"`)).join(',')}}`;
}
