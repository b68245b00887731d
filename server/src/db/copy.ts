import { type CompiledQuery, type RawBuilder, type Kysely } from 'kysely';
import pg from 'pg';
import { from as copyFrom, to as copyTo } from 'pg-copy-streams';
import { once } from 'node:events';
import { type Duplex } from 'node:stream';
import { finished } from 'node:stream/promises';
import { type Tables } from './tables.ts';

const UNESCAPED: Readonly<Record<string, string>> = { n: '\n', t: '\t', r: '\r', b: '\b', f: '\f', v: '\v' };
const unescaped = (text: string): string => text.replace(/\\(.)/g, (_, mark: string) => UNESCAPED[mark] ?? mark);
/** How COPY writes null here: a backspace, which it writes as an escape where it stands in a text. So a line without a
 * backslash has nothing to unescape. */
const NULL = '\b';
const SPECIAL = /[\\\n\t\r]/;
const escape = (text: string): string =>
  SPECIAL.test(text)
    ? text.replace(/[\\\n\t\r]/g, (mark) =>
        mark === '\n' ? '\\n' : mark === '\t' ? '\\t' : mark === '\r' ? '\\r' : '\\\\',
      )
    : text;

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

/** Rows that follow one another often have a long text in common: the last one is not unescaped again. */
function cellReader(): (line: string) => (string | null)[] {
  let last = '';
  let text = '';
  const unescape = (cell: string): string => {
    if (cell === last) return text;
    last = cell;
    return (text = unescaped(cell));
  };
  return (line) => {
    const cells: (string | null)[] = line.split('\t');
    const escaped = line.includes('\\');
    for (let i = 0; i < cells.length; i++) {
      const cell = cells[i]!;
      if (cell === NULL) cells[i] = null;
      else if (escaped && cell.includes('\\')) cells[i] = unescape(cell);
    }
    return cells;
  };
}

/** Rows of a query in batches as they arrive; memory does not grow with the set. Values are text, `null` is null. */
export async function* copyOut(
  client: pg.ClientBase,
  q: Kysely<Tables>,
  query: RawBuilder<unknown>,
): AsyncGenerator<(string | null)[][]> {
  const stream = client.query(copyTo(`copy (${withLiterals(query.compile(q))}) to stdout with (null E'\\b')`));
  stream.setEncoding('utf8');
  const cellsOf = cellReader();
  let rest = '';
  let complete = false;
  try {
    for await (const chunk of stream as AsyncIterable<string>) {
      const lines = (rest + chunk).split('\n');
      rest = lines.pop()!;
      if (lines.length > 0) {
        yield lines.map(cellsOf);
      }
    }
    complete = true;
  } finally {
    // A COPY that nobody reads to its end holds its connection for good: the connection goes, and the pool makes another.
    if (!complete) (client as unknown as { connection: { stream: Duplex } }).connection.stream.destroy();
  }
}

const FLUSH_AT = 128 * 1024;

type Cells = readonly (string | number | bigint | boolean | null)[];

function lineOf(cells: Cells): string {
  let line = '';
  for (let i = 0; i < cells.length; i++) {
    const cell = cells[i] ?? null;
    if (i > 0) line += '\t';
    line += cell === null ? '\\N' : typeof cell === 'string' ? escape(cell) : String(cell);
  }
  return line + '\n';
}

/**
 * Writes batches of rows into a table by COPY, with backpressure; returns how many rows. Whatever the rows throw is
 * thrown on, after the COPY was called off: the connection is free again, and its transaction can only be rolled back.
 */
export async function copyIn(
  client: pg.ClientBase,
  target: string,
  batches: Iterable<readonly Cells[]> | AsyncIterable<readonly Cells[]>,
): Promise<number> {
  const stream = client.query(copyFrom(`copy ${target} from stdin`));
  // The database refused something, or the connection is lost: the COPY is over, and its stream may never say anything again.
  let failure: unknown;
  const refused = new Promise<never>((_, reject) => {
    stream.on('error', (error) => {
      failure ??= error;
      reject(error);
    });
  });
  refused.catch(() => undefined);
  let buffer = '';
  let count = 0;
  try {
    for await (const rows of batches) {
      count += rows.length;
      for (const row of rows) buffer += lineOf(row);
      if (buffer.length < FLUSH_AT) continue;
      if (failure) await refused;
      const full = !stream.write(buffer);
      buffer = '';
      if (full) await Promise.race([once(stream, 'drain'), refused]);
    }
    if (failure) await refused;
    stream.end(buffer);
    await Promise.race([finished(stream), refused]);
    return count;
  } catch (error) {
    // What the database refused comes first: writing on after it only says that the stream is gone.
    if (failure) await refused;
    const closed = new Promise((go) => stream.once('close', go));
    stream.destroy(error as Error);
    await Promise.race([closed, refused.catch(() => undefined)]);
    throw error;
  }
}

/** A list as a PostgreSQL array literal for COPY. */
export function arrayLiteral(values: readonly (string | null)[]): string {
  return `{${values.map((value) => (value === null ? 'NULL' : `"${value.replace(/[\\"]/g, '\\$&')}"`)).join(',')}}`;
}
