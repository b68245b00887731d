import { type Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import pg from 'pg';
import { type Logger } from 'pino';
import { CHANNEL } from '../db/tell.ts';

const HEARTBEAT = 15_000;

/** One ear on the database for the whole process; what it hears goes to every open browser by server-sent events. */
export class Events {
  private readonly listeners = new Set<(event: string) => void>();
  private client: pg.Client | undefined;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on('notification', ({ payload }) => this.listeners.forEach((tell) => tell(payload ?? '')));
    client.on('error', () => this.listenAgain());
    await client.connect();
    await client.query(`listen ${CHANNEL}`);
    this.client = client;
  }

  async stop(): Promise<void> {
    this.closed = true;
    await this.client?.end().catch(() => undefined);
  }

  private listenAgain(): void {
    if (this.closed) return;
    this.log.warn('the ear on the database was lost; listening again');
    setTimeout(() => this.start().catch(() => this.listenAgain()), 1_000).unref();
  }

  serve(app: Hono): void {
    app.get('/api/events', (c) =>
      streamSSE(c, async (stream) => {
        const tell = (event: string) => void stream.writeSSE({ data: event });
        this.listeners.add(tell);
        stream.onAbort(() => void this.listeners.delete(tell));
        while (!stream.aborted && !this.closed) {
          await stream.writeSSE({ event: 'still here', data: '' });
          await stream.sleep(HEARTBEAT);
        }
        this.listeners.delete(tell);
      }),
    );
  }
}
