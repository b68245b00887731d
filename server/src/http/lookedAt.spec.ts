import { startTestServer, type TestServer } from '../testing/testServer.ts';

const NOW = Date.parse('2026-11-25T12:00Z');
const at = (text: string) => String(Date.parse(text));

describe('a moment that is looked at', () => {
  let context: TestServer;
  beforeAll(async () => (context = await startTestServer({ clock: () => NOW })));
  afterAll(() => context.close());

  const ask = async (question: string, moment?: string) => {
    const response = await fetch(`${context.open.address}/api/answers`, {
      method: 'POST',
      body: JSON.stringify({ question }),
      headers: { 'content-type': 'application/json', ...(moment !== undefined && { 'x-moment': moment }) },
    });
    return { status: response.status, answer: (await response.json()) as { title?: string; counts: { skus: number } } };
  };
  const skus = async (question: string, moment?: string) => (await ask(question, moment)).answer.counts.skus;

  it('is answered for, one call beside another, and now where none is named', async () => {
    const question = 'sale is "Letters by candlelight"';
    const [now, then, behind] = await Promise.all([
      skus(question),
      skus(question, at('2026-12-01T00:00Z')),
      skus(question, at('2026-12-15T00:00Z')),
    ]);
    expect([now, behind]).toEqual([0, 0]);
    expect(then).toBeGreaterThan(0);
    expect(await skus(question)).toBe(0);
  });

  it('is that of every price: what is reduced then is in a sale then', async () => {
    const moment = at('2026-12-24T00:00Z');
    expect(await skus('current price < regular price', moment)).toBe(await skus('sale is filled', moment));
  });

  it('may lie in the past, but not where nobody plans, and is a moment at all', async () => {
    expect((await ask('', at('2026-11-25T11:59Z'))).status).toBe(200);
    for (const odd of ['tomorrow', '-5', '1e99', '99999999999999', at('2201-01-01T00:00Z'), ''])
      expect((await ask('', odd)).status)
        .withContext(odd)
        .toBe(422);
  });

  it('is shown in the shop: a page of then has the prices of then', async () => {
    const { rows } = await context.db.pool.query<{ slug: string }>(
      `select p.slug from sale_line l join sale s on s.id = l.sale_id join sku k on k.id = l.sku_id join product p on p.id = k.product_id
       join price r on r.sku_id = k.id where s.name = 'Inventory days' and p.stage = 'On sale' and p.bought = 'yes' and r.regular > 100 limit 1`,
    );
    const prices = async (moment: string) => {
      const headers = { 'x-moment': moment };
      const response = await fetch(`${context.open.address}/shop/products/${rows[0]!.slug}`, { headers });
      const { variants } = (await response.json()) as { variants: { price: string; was: string | null }[] };
      return variants.map(({ was }) => was !== null);
    };
    expect(await prices(at('2027-01-10T12:00Z'))).toContain(true);
    expect(await prices(at('2027-01-18T00:00Z'))).not.toContain(true);
  });
});
