import { XMLParser, XMLValidator } from 'fast-xml-parser';
import { Hono } from 'hono';
import { stream } from 'hono/streaming';
import { checkItem } from './checkItem.ts';

/** How the engine behaves: as it should, or as engines do on bad days. */
export type Mood = 'well' | 'slow' | 'failing' | 'rubbish';

type Item = Record<string, string>;

/** The items of a feed by attribute name, the prefix of the engine's attribute set taken off. */
function itemsOf(xml: string, namespace: string): Item[] | string {
  // eslint-disable-next-line @typescript-eslint/no-deprecated -- its successor is another package; this one ships with the parser
  const valid = XMLValidator.validate(xml);
  if (valid !== true) return `not well-formed XML: ${valid.err.msg} in line ${valid.err.line}`;
  const parser = new XMLParser({ ignoreAttributes: false, parseTagValue: false, isArray: (name) => name === 'item' });
  const { rss } = parser.parse(xml) as { rss?: { channel?: { item?: Item[] } } & Record<string, string> };
  if (!rss?.channel) return 'not an RSS 2.0 feed: rss and channel are missing';
  const declared = Object.entries(rss).find(([name, value]) => name.startsWith('@_xmlns:') && value === namespace);
  if (!declared) return `the attribute set ${namespace} is not declared`;
  const prefix = declared[0].slice('@_xmlns:'.length) + ':';
  return (rss.channel.item ?? []).map((item) =>
    Object.fromEntries(Object.entries(item).map(([name, value]) => [name.replace(prefix, ''), value])),
  );
}

/** A simulated shopping engine: takes a feed, checks it by its own rules, replies by item in JSON Lines. */
export function engineApp(mood: () => Mood = () => 'well'): Hono {
  const app = new Hono();
  app.get('/', (c) => c.text('Lamplight Finder, a simulated shopping engine. Hand feeds in at POST /feeds.'));
  app.post('/feeds', async (c) => {
    const now = mood();
    if (now === 'failing') return c.text('out of order', 503);
    if (now === 'slow') await new Promise((go) => setTimeout(go, 3_000));
    if (now === 'rubbish') return c.text('<html>We have moved.</html>\n');
    const items = itemsOf(await c.req.text(), c.req.header('x-attribute-set') ?? '');
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
