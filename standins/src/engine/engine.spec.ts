import { checkItem } from './checkItem.ts';
import { startEngine } from './index.ts';
import { type Listing, PROFILE } from './profile.ts';

const item: Listing = {
  ref: 'IG-1',
  heading: 'Iron Gall Ink',
  blurb: 'A permanent ink that darkens as it dries on the page.',
  page: 'http://shop.example/ink',
  photo: 'http://shop.example/ink.webp',
  shelfState: 'on-the-shelf',
  asks: '12.50',
  coin: 'GBP',
  wear: 'unworn',
  strip: '6291041500213',
  heft: '180 g',
  aisle: 'Ink',
};

describe('the engine’s own rules', () => {
  it('accept an item that has everything', () => {
    expect(checkItem(item)).toEqual({ id: 'IG-1', state: 'accepted', messages: [] });
  });

  it('refuse what is missing or malformed, naming each', () => {
    const refused = checkItem({ ...item, photo: '', asks: '£12.50', strip: '6291041500214' });
    expect(refused.state).toBe('refused');
    expect(refused.messages).toEqual([
      'photo is missing',
      'asks "£12.50" is not like 12.50',
      'strip "6291041500214" has a wrong check digit',
    ]);
    expect(checkItem({ ...item, shelfState: 'maybe' }).messages).toEqual(['shelfState "maybe" is unknown']);
    expect(checkItem({ ...item, asks: '250.00' }).state).toBe('refused');
  });

  it('do not know the words of schema.org: an outlet is fed in its own', () => {
    expect(checkItem({ ...item, shelfState: 'InStock', wear: 'NewCondition' }).state).toBe('refused');
    expect(
      Object.keys(PROFILE.fields).filter((name) => ['sku', 'name', 'price', 'brand', 'gtin'].includes(name)),
    ).toEqual([]);
  });

  it('advise without refusing', () => {
    const { heft: _, ...light } = item;
    expect(checkItem(light)).toEqual(jasmine.objectContaining({ state: 'warned' }));
    expect(checkItem({ ...item, heading: 'LARKSPUR IRON GALL INK' }).messages).toEqual([
      'heading shouts: write it in lower case',
    ]);
  });
});

describe('the engine over HTTP', () => {
  const feed = (xml: string) => async (address: string) => fetch(`${address}/feeds`, { method: 'POST', body: xml });
  const rss = (items: string, declared: string = PROFILE.namespace) =>
    `<rss version="2.0" xmlns:e="${declared}"><channel><title>T</title>${items}</channel></rss>`;
  const answer = async (send: (address: string) => Promise<Response>) => {
    const engine = await startEngine(0);
    try {
      const response = await send(engine.address);
      return { status: response.status, text: await response.text() };
    } finally {
      await engine.close();
    }
  };

  it('replies by item, one line of JSON each', async () => {
    const { status, text } = await answer(
      feed(rss('<item><e:ref>A</e:ref><ref>X</ref></item><item><e:ref>B</e:ref></item>')),
    );
    expect(status).toBe(200);
    const lines = text
      .trim()
      .split('\n')
      .map((line) => JSON.parse(line) as { id: string; state: string });
    expect(lines.map(({ id, state }) => [id, state])).toEqual([
      ['A', 'refused'],
      ['B', 'refused'],
    ]);
  });

  it('refuses a file that it cannot read, and says why', async () => {
    expect(await answer(feed('<rss><channel>'))).toEqual(jasmine.objectContaining({ status: 422 }));
    expect((await answer(feed('<html></html>'))).text).toContain('not an RSS 2.0 feed');
    expect((await answer(feed(rss('', 'urn:other')))).text).toContain(
      `the namespace ${PROFILE.namespace} is not declared`,
    );
    expect((await answer(feed(rss('')))).text).toBe('');
  });

  it('publishes what it wants', async () => {
    const { text } = await answer((address) => fetch(`${address}/profile`));
    expect((JSON.parse(text) as { namespace: string }).namespace).toBe(PROFILE.namespace);
  });
});
