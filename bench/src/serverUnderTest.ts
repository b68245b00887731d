import { type Call, type CallInput, calls, MOMENT_HEADER, requestOf, type Work } from '@ivory/contract';
import { type ChildProcess, spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { join } from 'node:path';
import { type Db } from '@ivory/server';

/** What every bench works with: the database for the raw work, and the server for ours. */
export interface Ground {
  readonly db: Db;
  readonly server: ServerUnderTest;
  readonly skus: number;
  /** How many sales the shop has where prices are measured. */
  readonly sales: number;
  readonly runs: number;
  readonly files: string;
}

/** The server in a process of its own, as it runs for a shop, so that its memory is its own. */
export class ServerUnderTest {
  private readonly agent = new Agent({ keepAlive: true });

  private constructor(
    private readonly child: ChildProcess,
    readonly address: string,
  ) {}

  static start(databaseUrl: string, files: string, web: string): Promise<ServerUnderTest> {
    const built = join(import.meta.dirname, 'bench-server.mjs');
    const child = spawn(process.execPath, [built, databaseUrl, files, web], { stdio: ['ignore', 'pipe', 'inherit'] });
    return new Promise((resolve, reject) => {
      child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)));
      child.stdout.once('data', (bytes: Buffer) => resolve(new ServerUnderTest(child, bytes.toString().trim())));
    });
  }

  async call<Params, Query, Body, Answer, Sent>(
    call: Call<Params, Query, Body, Answer, Sent>,
    input: CallInput<Params, Sent> = {},
    /** The moment that it is asked for, in milliseconds; now where none is named. */
    moment?: number,
  ): Promise<Answer> {
    const { address, init } = requestOf(call, input);
    const { status, text } = await this.request(init.method, address, init.body, moment);
    if (status !== 200) throw new Error(`${call.path}: ${text}`);
    return JSON.parse(text) as Answer;
  }

  /** By Node's own client on one kept connection: whatever a richer one adds would be counted as the server's time. */
  private request(
    method: string,
    path: string,
    sent: string | undefined,
    moment?: number,
  ): Promise<{ status: number; text: string }> {
    return new Promise((resolve, reject) => {
      const headers = {
        'content-type': 'application/json',
        'content-length': Buffer.byteLength(sent ?? ''),
        ...(moment !== undefined && { [MOMENT_HEADER]: String(Math.round(moment)) }),
      };
      const asked = request(`${this.address}${path}`, { method, agent: this.agent, headers }, (response) => {
        let text = '';
        response.setEncoding('utf8').on('data', (piece: string) => (text += piece));
        response.once('end', () => resolve({ status: response.statusCode!, text })).once('error', reject);
      });
      asked.once('error', reject).end(sent);
    });
  }

  /** Reads a file to its end. */
  async read(path: string): Promise<string> {
    const { status, text } = await this.request('GET', path, undefined);
    if (status !== 200) throw new Error(`${path}: ${text}`);
    return text;
  }

  /** Waits for a piece of work, asking seldom enough not to be felt. */
  async finished({ id }: Work): Promise<Work> {
    for (;;) {
      const work = await this.call(calls.getWork, { params: { id } });
      if (work.state === 'failed') throw new Error(`${work.title}: ${work.note}`);
      if (work.state === 'done') return work;
      await new Promise((go) => setTimeout(go, 20));
    }
  }

  /** Proposes to take a landing back; gives the id of the proof. */
  async takeBack(landing: string): Promise<string> {
    const { proof, work } = await this.call(calls.takeBack, { params: { id: landing } });
    return proof?.id ?? (await this.finished(work!)).result!;
  }

  get pid(): number {
    return this.child.pid!;
  }

  /** Ends the process as a loss of power would. */
  async kill(): Promise<void> {
    this.agent.destroy();
    const ended = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.kill('SIGKILL');
    await ended;
  }

  get isUp(): boolean {
    return this.child.exitCode === null && this.child.signalCode === null;
  }

  /** The most memory that the process ever held (VmHWM). */
  peakMegabytes(): number {
    const status = readFileSync(`/proc/${this.child.pid}/status`, 'utf8');
    return Number(/VmHWM:\s*(\d+)/.exec(status)![1]) / 1024;
  }

  async stop(): Promise<void> {
    this.agent.destroy();
    const ended = new Promise((resolve) => this.child.once('exit', resolve));
    this.child.kill('SIGTERM');
    await ended;
  }
}

/** Runs raw SQL on a connection with the settings that the server has. */
export async function raw(db: Db, ...statements: string[]): Promise<void> {
  const client = await db.pool.connect();
  try {
    for (const statement of statements) await client.query(statement);
  } finally {
    client.release();
  }
}
