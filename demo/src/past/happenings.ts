import { calls } from '@ivory/contract';
import { type ShopByHand } from './shopByHand.ts';

/** Something that was done in the shop: so many days ago, at a time of the day in UTC. */
export interface Happening {
  readonly daysAgo: number;
  readonly at: string;
  readonly do: (shop: ShopByHand) => Promise<unknown>;
}

const orders =
  (question: string, pieces: readonly number[], country: string | null = 'GB') =>
  (shop: ShopByHand) =>
    shop.order(question, pieces, country);

/** A count of the shelves as the stock room sends it: what it found of the first goods of a question. */
async function countShelves(shop: ShopByHand, question: string, fileName: string, name: string): Promise<void> {
  const goods = await shop.skus(question, 60);
  const rows = goods.map(({ code }, at) => `${code},${(at * 37) % 90}`);
  await shop.bringIn(fileName, ['Code,Stock', ...rows, ''].join('\r\n'), name);
}

/** Texts of the first goods of a question, written by hand. */
async function describe(shop: ShopByHand, question: string, texts: readonly string[], title: string): Promise<void> {
  const skus = await shop.skus(question, 200);
  const products = [...new Set(skus.map(({ product }) => product))].slice(0, texts.length);
  await shop.type(
    title,
    products.map((id, at) => ['product', id, 'summary', texts[at]!]),
  );
}

/** Prices of the first goods of a question, typed one by one. */
async function price(shop: ShopByHand, question: string, prices: readonly string[], title: string, note?: string) {
  const skus = await shop.skus(question, prices.length);
  return shop.type(
    title,
    skus.map(({ id }, at) => ['sku', id, 'price', prices[at]!]),
    note,
  );
}

/** Twelve weeks of the demo shop, the oldest first. */
export const HAPPENINGS: readonly Happening[] = [
  {
    daysAgo: 83,
    at: '09:12',
    do: (shop) =>
      shop.rule(
        'Notebooks dearer',
        'in Paper > Notebooks',
        'raise regular price by 3 %',
        'The mill raised its prices.',
      ),
  },
  { daysAgo: 82, at: '14:31', do: orders('in Ink', [1, 2]) },
  {
    daysAgo: 79,
    at: '10:05',
    do: (shop) => countShelves(shop, 'in Ink > Cartridges', 'count-cartridges.csv', 'Cartridges counted'),
  },
  {
    daysAgo: 76,
    at: '16:20',
    do: (shop) =>
      describe(
        shop,
        'in Pens > Fountain',
        [
          'A steady pen for long letters, with a nib that forgives a heavy hand.',
          'Turned from one rod of brass, which darkens where it is held.',
          'Light enough for a pocket, and it fills by a twist.',
        ],
        'Fountain pens described',
      ),
  },
  { daysAgo: 73, at: '11:44', do: orders('in Paper', [3, 1, 1], 'IE') },
  // What went wrong, and was taken back before anybody ordered.
  {
    daysAgo: 69,
    at: '09:30',
    do: async (shop) => {
      const landing = await shop.rule('Cartridges dearer', 'in Ink > Cartridges', 'raise regular price by 25 %');
      await shop.takeBack(landing, 'Cartridges dearer, taken back', '25 % was meant to be 2.5 %.');
    },
  },
  {
    daysAgo: 69,
    at: '09:52',
    do: (shop) => shop.rule('Cartridges dearer by 2.5 %', 'in Ink > Cartridges', 'raise regular price by 2.5 %'),
  },
  { daysAgo: 66, at: '13:15', do: orders('in Pens', [1]) },
  { daysAgo: 62, at: '15:02', do: (shop) => shop.rule('Wax is a gift', 'in Desk > Wax and seals', 'add Gift to tags') },
  {
    daysAgo: 59,
    at: '08:47',
    do: (shop) => price(shop, 'code starts with RL-', ['24.50', '24.50', '26.00'], 'Pen rolls'),
  },
  { daysAgo: 57, at: '17:26', do: orders('in Desk', [1, 1]) },
  {
    daysAgo: 55,
    at: '10:10',
    do: (shop) => countShelves(shop, 'in Paper > Loose sheets', 'count-sheets.csv', 'Loose sheets counted'),
  },
  {
    daysAgo: 52,
    at: '09:18',
    do: (shop) => shop.rule('Delivery of October', 'stock < 10 stage is "On sale"', 'add 24 to stock'),
  },
  {
    daysAgo: 48,
    at: '14:00',
    do: (shop) =>
      describe(
        shop,
        'in Paper > Cards and envelopes',
        ['Cards with room for six lines, and an envelope for each.', 'Lined in tissue, so that nobody reads along.'],
        'Cards described',
      ),
  },
  { daysAgo: 45, at: '12:37', do: orders('in Ink > Bottled', [2, 1, 1], 'DE') },
  {
    daysAgo: 41,
    at: '10:33',
    do: (shop) =>
      shop.rule('Pens dearer', 'in Pens > Dip', 'raise regular price by 4 %', 'As the list of the supplier says.'),
  },
  {
    // Taken back at once, as it was thought over.
    daysAgo: 38,
    at: '09:05',
    do: async (shop) => {
      const landing = await price(shop, 'code starts with DH-', ['4.50', '4.50', '5.00', '5.00'], 'Holders cheaper');
      await shop.takeBack(landing, 'Holders as before', 'They sold as well at the old price.');
    },
  },
  { daysAgo: 35, at: '18:41', do: orders('in Paper > Notebooks', [5]) },
  { daysAgo: 31, at: '09:26', do: (shop) => shop.rule('Costs of ink', 'in Ink > Bottled', 'raise cost by 2 %') },
  { daysAgo: 28, at: '11:11', do: orders('in Pens > Pencils', [4, 2]) },
  { daysAgo: 24, at: '16:08', do: (shop) => price(shop, 'code starts with BX-', ['38.00', '42.00'], 'Letter boxes') },
  {
    daysAgo: 20,
    at: '10:50',
    do: (shop) => countShelves(shop, 'in Pens > Dip', 'count-dip-pens.csv', 'Dip pens counted'),
  },
  { daysAgo: 17, at: '13:33', do: orders('in Ink', [1], 'FR') },
  {
    daysAgo: 13,
    at: '09:40',
    do: (shop) => shop.rule('Delivery of November', 'stock < 10 stage is "On sale"', 'add 36 to stock'),
  },
  { daysAgo: 10, at: '15:55', do: orders('in Desk > Wax and seals', [2, 2]) },
  {
    daysAgo: 8,
    at: '09:15',
    do: (shop) => shop.rule('Envelopes are back', 'in Paper > Cards and envelopes', 'add Gift to tags'),
  },
  { daysAgo: 5, at: '12:02', do: orders('in Paper', [1, 2, 1]) },
  { daysAgo: 3, at: '10:24', do: (shop) => price(shop, 'code starts with WX-', ['6.20', '6.20', '6.80'], 'Wax') },
  { daysAgo: 1, at: '16:45', do: orders('in Ink > Cartridges', [6, 3]) },
];

const DAY_MS = 86_400_000;

/** What is to come: a season of goods on the front page that is planned, and a plan that waits, as a price was changed under it. */
export async function planAhead(shop: ShopByHand): Promise<void> {
  const today = Math.floor(Date.now() / DAY_MS) * DAY_MS;
  const season = await shop.propose('Letters of the new year', 'in Paper > Loose sheets', 'add Gift to tags');
  const params = { id: season.id };
  const from = today + 30 * DAY_MS;
  await shop.call(calls.planProof, { params, body: { at: from, back: from + 17 * DAY_MS, whenChanged: 'rest' } });

  const waiting = await shop.propose('Pencils dearer', 'in Pens > Pencils', 'raise regular price by 5 %');
  const due = Date.now() + 1_500;
  await shop.call(calls.planProof, {
    params: { id: waiting.id },
    body: { at: due, back: null, whenChanged: 'wait' },
  });
  await price(shop, 'in Pens > Pencils', ['7.77'], 'A pencil by hand');
  for (const until = due + 20_000; Date.now() < until;) {
    const { planned } = await shop.call(calls.listPlanned);
    if (planned.some(({ state }) => state === 'waits')) return;
    await new Promise((go) => setTimeout(go, 200));
  }
  throw new Error('The plan that was to wait did not.');
}
