import { serve, type ServerType } from '@hono/node-server';
import { type Hono } from 'hono';
import { type AddressInfo } from 'node:net';

export interface StandIn {
  readonly address: string;
  close(): Promise<void>;
}

/** Serves a stand-in on loopback; port 0 takes a free one. */
export async function listen(app: Hono, port: number): Promise<StandIn> {
  const server = await new Promise<ServerType>((resolve, reject) => {
    const made = serve({ fetch: app.fetch, port, hostname: '127.0.0.1' }, () => resolve(made));
    made.once('error', reject);
  });
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    close: () => new Promise((closed) => server.close(() => closed())),
  };
}
