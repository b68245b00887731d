import { refusalWords } from '@ivory/contract';
import ipaddr from 'ipaddr.js';
import { lookup } from 'node:dns';
import { get as getHttp, type IncomingMessage } from 'node:http';
import { get as getHttps } from 'node:https';
import { type LookupFunction } from 'node:net';
import { Refusal } from '../refusal.ts';

const PATIENCE_MS = 10_000;
const MOST_REDIRECTS = 5;

/** Whether an address of the network is one that everybody reaches, and not of this machine or its own network. */
export function isPublic(address: string): boolean {
  // An IPv4 address may be written as an IPv6 address (RFC 4291, section 2.5.5.2).
  return ipaddr.isValid(address) && ipaddr.process(address).range() === 'unicast';
}

/** Looks a name up, and fails where any of its addresses is not public: a name may have several, and another each time. */
const lookupPublic: LookupFunction = (host, options, found) => {
  lookup(host, { ...options, all: true }, (error, addresses) => {
    const closed = error ? undefined : addresses.find(({ address }) => !isPublic(address));
    if (error) return found(error, '', 0);
    if (closed) return found(Object.assign(new Error('not public'), { code: 'NOT_PUBLIC' }), '', 0);
    if (options.all) return found(null, addresses);
    return found(null, addresses[0]!.address, addresses[0]!.family);
  });
};

/** A picture somewhere on the web: its name, and its bytes as they come. */
export interface FetchedPicture {
  readonly name: string;
  readonly bytes: AsyncIterable<Uint8Array>;
}

/**
 * Opens a picture by its address on the web. Redirects are followed only to public addresses, at most five; addresses of this machine
 * and of private networks are refused, but for hosts that `allowed` names (`127.0.0.1:8080`). All of it has ten seconds.
 */
export async function fetchPicture(address: string, allowed: readonly string[] = []): Promise<FetchedPicture> {
  const ended = AbortSignal.timeout(PATIENCE_MS);
  const refuse = (why: string) => new Refusal('not valid', refusalWords.pictures.addressNotTaken(address, why));
  let at = address;
  for (let redirects = 0; redirects <= MOST_REDIRECTS; redirects++) {
    const url = URL.canParse(at) ? new URL(at) : undefined;
    if (url?.protocol !== 'http:' && url?.protocol !== 'https:') throw refuse(refusalWords.pictures.noWebAddress);
    const response = await open(url, ended, allowed).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'NOT_PUBLIC') throw refuse(refusalWords.pictures.privateNetwork);
      throw refuse(ended.aborted ? 'it did not answer within ten seconds.' : 'there is no answer from there.');
    });
    const { statusCode = 0, headers } = response;
    if (statusCode >= 300 && statusCode < 400 && headers.location !== undefined) {
      response.destroy();
      at = new URL(headers.location, url).href;
      continue;
    }
    if (statusCode !== 200) {
      response.destroy();
      throw refuse(refusalWords.pictures.answered(statusCode));
    }
    return { name: nameOf(url), bytes: untilEnd(response, ended, refuse) };
  }
  throw refuse(refusalWords.pictures.tooManyRedirects);
}

function open(url: URL, signal: AbortSignal, allowed: readonly string[]): Promise<IncomingMessage> {
  const host = url.hostname.replace(/^\[|\]$/g, '');
  const isAllowed = allowed.includes(url.host);
  // A number is not looked up by name: it is held against the networks here.
  if (!isAllowed && ipaddr.isValid(host) && !isPublic(host))
    return Promise.reject(Object.assign(new Error('not public'), { code: 'NOT_PUBLIC' }));
  const get = url.protocol === 'https:' ? getHttps : getHttp;
  return new Promise((resolve, reject) => {
    const options = { signal, agent: false, ...(!isAllowed && { lookup: lookupPublic }) } as const;
    get(url, options, resolve).once('error', reject);
  });
}

async function* untilEnd(
  response: IncomingMessage,
  ended: AbortSignal,
  refuse: (why: string) => Refusal,
): AsyncGenerator<Uint8Array> {
  try {
    for await (const piece of response as AsyncIterable<Uint8Array>) yield piece;
  } catch {
    throw refuse(ended.aborted ? 'it did not come within ten seconds.' : 'it broke off before it was complete.');
  } finally {
    response.destroy();
  }
}

const nameOf = ({ pathname, hostname }: URL): string => {
  const last = pathname.split('/').filter(Boolean).at(-1) ?? hostname;
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
};
