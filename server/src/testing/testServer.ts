import { ruleOf } from '@ivory/core/testing';
import {
  type Call,
  type CallInput,
  calls,
  eventSchema,
  type Import,
  MOMENT_HEADER,
  type ProblemDetails,
  type ProofSummary,
  requestOf,
  type ServerEvent,
  type Work,
} from '@ivory/contract';
import { type FieldKey, type KindKey, type WarningKey, type Rule } from '@ivory/core';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pino } from 'pino';
import { type ServerOptions, startServer, type RunningServer } from '../startServer.ts';
import { readShop } from '../asked/names.ts';
import { freshDatabase } from './freshDatabase.ts';

/** What the server refused a call with. */
class Refused extends Error {
  constructor(readonly details: ProblemDetails) {
    super(`${details.status}: ${details.title} ${details.detail ?? ''}`);
  }
}

/** What a call is made with; `at` is the moment for which it is to be answered, as ISO 8601 writes it. */
type Input<Params, Sent> = CallInput<Params, Sent> & { readonly at?: string };

/** The demo shop with its server, on a database of its own; everything is gone after `close`. */
export class TestServer {
  constructor(
    private readonly options: ServerOptions,
    public open: RunningServer,
    private readonly letGo: () => Promise<void>,
  ) {}

  get db(): RunningServer['db'] {
    return this.open.db;
  }

  /** Makes a call of the contract over HTTP; its answer is held against the contract too. */
  async call<Params, Query, Body, Answer, Sent>(
    call: Call<Params, Query, Body, Answer, Sent>,
    input: Input<Params, Sent> = {},
  ): Promise<Answer> {
    const { address, init } = requestOf(call, input);
    if (input.at !== undefined) init.headers[MOMENT_HEADER] = String(Date.parse(input.at));
    const response = await this.fetch(address, init);
    return call.answer.parse(await response.json());
  }

  /** A plain request; a refusal is thrown with its details. */
  async fetch(path: string, init: RequestInit = {}): Promise<Response> {
    const response = await fetch(this.open.address + path, init);
    if (response.ok) return response;
    throw new Refused((await response.json()) as ProblemDetails);
  }

  /** Hands a file in, as dropping it on the window does. */
  async upload(name: string, body: BodyInit | Uint8Array, headers: Record<string, string> = {}): Promise<Import> {
    const response = await this.fetch('/api/imports', {
      method: 'POST',
      body: body as BodyInit,
      headers: { 'content-type': 'application/octet-stream', 'x-file-name': encodeURIComponent(name), ...headers },
    });
    return (await response.json()) as Import;
  }

  /** Waits until a piece of work is over. */
  async finished({ id }: Work): Promise<Work> {
    for (;;) {
      const work = await this.call(calls.getWork, { params: { id } });
      if (!['waiting', 'running'].includes(work.state)) return work;
      await new Promise((go) => setTimeout(go, 25));
    }
  }

  /** A rule as it is typed, read with the names of the shop. */
  async rule(text: string): Promise<Rule> {
    return ruleOf(text, await readShop(this.db));
  }

  /** Lands a small proof; gives the landing's id. */
  async land(proof: string): Promise<string> {
    return (await this.call(calls.landProof, { params: { id: proof } })).landing!;
  }

  /** Agrees to what waits until a person does in the proof in hand, and lands it. */
  async agreeAndLand(warning: WarningKey): Promise<string> {
    const { proof } = await this.call(calls.getHandProof);
    await this.call(calls.agreeTo, { params: { id: proof!.id }, body: { warning, agreed: true } });
    return this.land(proof!.id);
  }

  /** Types into one cell of an SKU; gives the proof in hand. */
  async edit(sku: string, field: FieldKey, text: string): Promise<ProofSummary> {
    return (await this.edits('Cells', [{ sku, field, text }])).proof!;
  }

  /** Types into cells of SKUs, as the sheet does: what is the product's is said of the product. */
  async edits(title: string, cells: readonly { sku: string; field: FieldKey; text: string }[]) {
    const { register } = await readShop(this.db);
    const skus = cells.map(({ sku }) => sku);
    const { rows } = await this.db.pool.query<{ id: string; product_id: string }>(
      'select id, product_id from sku where id = any($1::bigint[])',
      [skus],
    );
    const products = new Map(rows.map(({ id, product_id }) => [id, product_id]));
    const edits = cells.map(({ sku, field, text }) => {
      const { kind } = register.get(field);
      return { kind, id: kind === 'product' ? (products.get(sku) ?? '0') : sku, field, text };
    });
    return this.call(calls.editCells, { body: { title, edits } });
  }

  /** Gives a value of anything; gives the proof in hand. */
  async set(kind: KindKey, id: string, field: FieldKey, text: string): Promise<ProofSummary> {
    const body = { title: 'Cells', edits: [{ kind, id, field, text }] };
    return (await this.call(calls.editCells, { body })).proof!;
  }

  /** Proposes to take a landing back, and waits for the proof where that is work. */
  async takeBack(landing: string): Promise<ProofSummary> {
    const { proof, work } = await this.call(calls.takeBack, { params: { id: landing } });
    if (proof) return proof;
    const { result } = await this.finished(work!);
    return (await this.call(calls.getProof, { params: { id: result! } })).proof;
  }

  /** Hears what every open browser is told, until `stop`, which gives all of it. */
  async hear(): Promise<{ stop: () => Promise<ServerEvent[]> }> {
    const told: ServerEvent[] = [];
    const ended = new AbortController();
    const stream = await fetch(`${this.open.address}/api/events`, { signal: ended.signal });
    const hearing = (async () => {
      const decoder = new TextDecoder();
      for await (const bytes of stream.body as unknown as AsyncIterable<Uint8Array>) {
        for (const line of decoder.decode(bytes, { stream: true }).split('\n')) {
          if (line.startsWith('data: {')) told.push(eventSchema.parse(JSON.parse(line.slice(6))));
        }
      }
    })().catch(() => undefined);
    return {
      stop: async () => {
        await new Promise((go) => setTimeout(go, 100));
        ended.abort();
        await hearing;
        return told;
      },
    };
  }

  /** The id of an SKU by its code. */
  async sku(code: string): Promise<string> {
    const { rows } = await this.db.pool.query<{ id: string }>('select id from sku where code = $1', [code]);
    return rows[0]!.id;
  }

  /** Codes of the shop that answer a question, in order. */
  async codes(question: string): Promise<string[]> {
    const { columns, rows } = await this.call(calls.answerQuestion, {
      body: { question, sort: { field: 'code', down: false } },
    });
    return rows.map((row) => row[3 + columns.indexOf('code')]!);
  }

  /** The value of a field in the row of an SKU. */
  async value(sku: string, key: FieldKey): Promise<string | null> {
    const { columns, row } = await this.call(calls.getSku, { params: { id: sku } });
    return row[3 + columns.indexOf(key)] ?? null;
  }

  /** Ends the server and starts it anew on the same database and files. */
  async restart(): Promise<void> {
    await this.open.close();
    this.open = await startServer(this.options);
  }

  async close(): Promise<void> {
    await this.open.close();
    await this.letGo();
  }
}

/** Opens the demo shop for a test. */
export async function startTestServer(
  more: Partial<ServerOptions> = {},
  database?: Awaited<ReturnType<typeof freshDatabase>>,
): Promise<TestServer> {
  const { url: databaseUrl, drop } = database ?? (await freshDatabase());
  const filesFolder = await mkdtemp(join(tmpdir(), 'ivory-files-'));
  const options: ServerOptions = {
    databaseUrl,
    filesFolder,
    storefront: 'http://127.0.0.1:1',
    port: 0,
    log: pino({ level: process.env['TEST_LOG'] ?? 'silent' }),
    ...more,
  };
  return new TestServer(options, await startServer(options), async () => {
    await drop();
    await rm(filesFolder, { recursive: true, force: true });
  });
}

/** The details of the refusal that is expected; anything else fails the test. */
export async function refusalOf(work: Promise<unknown>): Promise<ProblemDetails> {
  const answer = await work.then(
    () => undefined,
    (error: unknown) => error,
  );
  if (answer instanceof Refused) return answer.details;
  throw answer instanceof Error ? answer : new Error('This should have been refused.');
}
