import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { Hono } from 'hono';
import { secureHeaders } from 'hono/secure-headers';
import { stream } from 'hono/streaming';
import { checkItem } from './checkItem.ts';
import { type Listing, PROFILE } from './profile.ts';

/** How the engine behaves: as it should, or as engines do on bad days. */
export type Mood = 'well' | 'slow' | 'failing' | 'rubbish';

type Item = Readonly<Record<string, string>>;

/** The items of a feed with the fields of this engine's profile, the prefix of its namespace taken off. */
function listingsOf(xml: string): Listing[] | string {
  // eslint-disable-next-line @typescript-eslint/no-deprecated -- its successor is another package; this one ships with the parser
  const valid = XMLValidator.validate(xml);
  if (valid !== true) return `not well-formed XML: ${valid.err.msg} in line ${valid.err.line}`;
  const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, isArray: (name) => name === 'item' });
  const { rss } = parser.parse(xml) as { rss?: { channel?: { item?: Item[] } } & Record<string, string> };
  if (!rss?.channel) return 'not an RSS 2.0 feed: rss and channel are missing';
  const declared = Object.entries(rss).find(
    ([name, value]) => name.startsWith('@_xmlns:') && value === PROFILE.namespace,
  );
  if (!declared) return `the namespace ${PROFILE.namespace} is not declared; see /profile`;
  const prefix = declared[0].slice('@_xmlns:'.length) + ':';
  return (rss.channel.item ?? []).map((item) => {
    const ours = Object.entries(item).filter(([name]) => name.startsWith(prefix));
    return Object.fromEntries(ours.map(([name, value]) => [name.slice(prefix.length), value]));
  });
}

/** A simulated shopping engine: takes a feed, checks it by its own rules, replies by item in JSON Lines. */
export function engineApp(mood: () => Mood = () => 'well'): Hono {
  const app = new Hono();
  app.use(secureHeaders());
  app.get('/profile', (c) => c.json(PROFILE));
  app.get('/', (c) =>
    c.text(
      'Lamplight Finder, a simulated shopping engine. Hand feeds in at POST /feeds; what they hold stands at /profile.',
    ),
  );
  app.post('/feeds', async (c) => {
    const now = mood();
    if (now === 'failing') return c.text('out of order', 503);
    if (now === 'slow') await new Promise((go) => setTimeout(go, 3_000));
    if (now === 'rubbish') return c.text('<html>We have moved.</html>\n');
    const items = listingsOf(await c.req.text());
    if (typeof items === 'string') return c.text(items, 422);
    c.header('content-type', 'application/jsonl');
    return stream(c, async (out) => {
      for (let from = 0; from < items.length; from += 500) {
        await out.write(
          items
            .slice(from, from + 500)
            .map((item) => JSON.stringify(checkItem(item)) + '\n')
            .join(''),
        );
      }
    });
  });
  return app;
}
