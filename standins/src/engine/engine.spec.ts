import { checkItem } from './checkItem.ts';
import { startEngine } from './index.ts';

const item = {
  id: 'IG-1',
  title: 'Iron Gall Ink',
  description: 'A permanent ink that darkens as it dries on the page.',
  link: 'http://shop.example/ink',
  image_link: 'http://shop.example/ink.webp',
  availability: 'in_stock',
  price: '12.50 GBP',
  condition: 'new',
  gtin: '6291041500213',
  shipping_weight: '180 g',
  product_type: 'Ink',
};

describe('the engine’s own rules', () => {
  it('accept an item that has everything', () => {
    expect(checkItem(item)).toEqual({ id: 'IG-1', state: 'accepted', messages: [] });
  });

  it('refuse what is missing or malformed, naming each', () => {
    const refused = checkItem({ ...item, image_link: '', price: '£12.50', gtin: '6291041500214' });
    expect(refused.state).toBe('refused');
    expect(refused.messages).toEqual([
      'image_link is missing',
      'price "£12.50" is not like 12.50 GBP',
      'gtin "6291041500214" has a wrong check digit',
    ]);
    expect(checkItem({ ...item, availability: 'maybe' }).messages).toEqual(['availability "maybe" is unknown']);
    expect(checkItem({ ...item, price: '250.00 GBP' }).state).toBe('refused');
  });

  it('advise without refusing', () => {
    const { shipping_weight: _, ...light } = item;
    expect(checkItem(light)).toEqual(jasmine.objectContaining({ state: 'warned' }));
    expect(checkItem({ ...item, title: 'LARKSPUR IRON GALL INK' }).messages).toEqual([
      'title shouts: write it in lower case',
    ]);
  });
});

describe('the engine over HTTP', () => {
  const feed =
    (xml: string, set = 'urn:a') =>
    async (address: string) =>
      fetch(`${address}/feeds`, { method: 'POST', body: xml, headers: { 'x-attribute-set': set } });
  const rss = (items: string, declared = 'urn:a') =>
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
    const { status, text } = await answer(feed(rss('<item><e:id>A</e:id></item><item><e:id>B</e:id></item>')));
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
    expect((await answer(feed(rss('', 'urn:other')))).text).toContain('the attribute set urn:a is not declared');
    expect((await answer(feed(rss('')))).text).toBe('');
  });
});
