import { type Hono } from 'hono';
import { type SSEStreamingApi, streamSSE } from 'hono/streaming';
import pg from 'pg';
import { type Logger } from 'pino';
import { CHANNEL } from '../db/tell.ts';

const HEARTBEAT_MS = 15_000;

const write = (stream: SSEStreamingApi, data: string) => stream.writeSSE({ data });

const LISTEN_AGAIN_MS = 1_000;

/** One LISTEN connection per process; what it is notified of goes to every open browser by server-sent events. */
export class Events {
  private readonly streams = new Set<SSEStreamingApi>();
  private client: pg.Client | undefined;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on('notification', ({ payload }) => this.streams.forEach((stream) => void write(stream, payload ?? '')));
    // Every error of a connection is followed by its end.
    client.on('error', () => undefined);
    try {
      await client.connect();
      await client.query(`listen ${CHANNEL}`);
    } catch (error) {
      await client.end().catch(() => undefined);
      throw error;
    }
    client.once('end', () => void this.listenAgain());
    this.client = client;
  }

  async stop(): Promise<void> {
    this.closed = true;
    await this.client?.end().catch(() => undefined);
  }

  /** Called once for each lost connection: reconnects until it succeeds or the server closes. */
  private async listenAgain(): Promise<void> {
    while (!this.closed) {
      this.log.warn('the LISTEN connection was lost; listening again');
      await new Promise((go) => setTimeout(go, LISTEN_AGAIN_MS).unref());
      try {
        await this.start();
      } catch {
        continue;
      }
      // Browsers may have missed something: they read everything once more when they have opened the stream again.
      for (const stream of this.streams) void stream.close();
      return;
    }
  }

  serve(app: Hono): void {
    app.get('/api/events', (c) =>
      streamSSE(c, async (stream) => {
        this.streams.add(stream);
        stream.onAbort(() => void this.streams.delete(stream));
        while (!stream.aborted && !stream.closed && !this.closed) {
          await stream.writeSSE({ event: 'still here', data: '' });
          await stream.sleep(HEARTBEAT_MS);
        }
        this.streams.delete(stream);
      }),
    );
  }
}
