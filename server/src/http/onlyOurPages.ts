import { refusalWords } from '@ivory/contract';
import { type Context, type Next } from 'hono';
import { Refusal } from '../refusal.ts';

/** The origins under which a server is reached, such as `http://127.0.0.1:4300`; those of its port are known once it listens. */
export class Origins {
  private readonly origins: Set<string>;
  private hosts: ReadonlySet<string>;

  /** `named`: further origins that the settings name, behind a proxy for example. Refuses what is no origin. */
  constructor(named: readonly string[] = []) {
    this.origins = new Set(named.map((address) => originOf(address)));
    this.hosts = this.hostsNow();
  }

  /** Adds the names of this machine itself. */
  listensOn(port: number): void {
    for (const name of ['127.0.0.1', 'localhost', '[::1]']) this.origins.add(`http://${name}:${port}`);
    this.hosts = this.hostsNow();
  }

  has(origin: string): boolean {
    return this.origins.has(origin.toLowerCase());
  }

  hasHost(host: string): boolean {
    return this.hosts.has(host.toLowerCase());
  }

  private hostsNow(): ReadonlySet<string> {
    return new Set([...this.origins].map((origin) => origin.replace(/^\w+:\/\//, '')));
  }
}

function originOf(address: string): string {
  if (!URL.canParse(address) || !/^https?:/i.test(address))
    throw new Error(`“${address}” is no address of a server. Write it like https://shelf.example.`);
  return new URL(address).origin;
}

const READS = ['GET', 'HEAD', 'OPTIONS'];
/** What a form of any page can send without asking first. */
const OF_FORMS = ['application/x-www-form-urlencoded', 'multipart/form-data', 'text/plain'];

/**
 * Takes requests that were meant for this server. A page on a foreign name that resolves to this machine (DNS rebinding) is
 * told by the name in Host. A write must come from a page of ours or from no page, and be one that other pages cannot send
 * without asking first.
 */
export const onlyOurPages = (origins: Origins) => async (c: Context, next: Next) => {
  const host = c.req.header('host') ?? '';
  if (!origins.hasHost(host)) {
    throw new Refusal('not allowed', refusalWords.http.unknownHost(host));
  }
  if (READS.includes(c.req.method)) return next();
  const origin = c.req.header('origin');
  const site = c.req.header('sec-fetch-site') ?? 'same-origin';
  if (
    (origin !== undefined && !origins.has(origin)) ||
    (origin === undefined && !['same-origin', 'none'].includes(site))
  )
    throw new Refusal('not allowed', refusalWords.http.otherSite);
  const type = (c.req.header('content-type') ?? '').split(';')[0]!.trim().toLowerCase();
  // Other methods are none that a form can send.
  if (c.req.method === 'POST' && (type === '' || OF_FORMS.includes(type))) {
    throw new Refusal('not allowed', refusalWords.http.notJsonType(type));
  }
  return next();
};
