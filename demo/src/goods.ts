import { gtinCheckDigit, slugOf } from '@ivory/core';
import { Random } from './random.ts';
import { BRANDS, FIRST_WORDS, type Kind, KINDS, SUPPLIERS } from './range.ts';

export interface DemoSku {
  readonly id: number;
  readonly code: string;
  readonly colour: string | null;
  readonly size: string | null;
  readonly gtin: string | null;
  readonly grams: number | null;
  readonly price: number;
  readonly cost: number | null;
  readonly stock: number;
}

export interface DemoProduct {
  readonly id: number;
  readonly name: string;
  readonly slug: string;
  readonly description: string | null;
  /** Places in `BRANDS` and `SUPPLIERS`, from 0. */
  readonly brand: number | null;
  readonly supplier: number;
  readonly stage: 'Preparing' | 'On sale' | 'Resting' | 'Retired';
  readonly whenOut: 'hide it' | 'show it as sold out' | 'take back-orders';
  readonly kind: Kind;
  readonly pictured: boolean;
  readonly skus: readonly DemoSku[];
}

const COLOUR_CODE = (colour: string): string => colour.slice(0, 3).toUpperCase();
const SIZE_CODE = (size: string): string =>
  size
    .replace(/[^A-Za-z0-9]/g, '')
    .toUpperCase()
    .replace('PACKOF', 'P')
    .slice(0, 6);

/** Products until there are `skus` SKUs; the same for the same seed, and a larger shop begins with the smaller one. */
export function* demoGoods(skus: number, seed = 1847): Generator<DemoProduct> {
  const random = new Random(seed);
  let made = 0;
  for (let id = 1; made < skus; id++) {
    const product = makeProduct(random, id, made, skus - made);
    made += product.skus.length;
    yield product;
  }
}

function makeProduct(random: Random, id: number, skusBefore: number, room: number): DemoProduct {
  const kind = random.pick(KINDS);
  const series = Math.floor((id - 1) / (FIRST_WORDS.length * KINDS.length));
  const brand = random.chance(0.03) ? null : random.whole(0, BRANDS.length - 1);
  const name = [random.pick(FIRST_WORDS), kind.noun, series > 0 ? `No. ${series + 1}` : ''].filter(Boolean).join(' ');
  return {
    id,
    name,
    slug: `${slugOf(name)}-${id}`,
    description: random.chance(0.05) ? null : `${kind.words}\n\nKept by us in small numbers and packed by hand.`,
    brand,
    supplier: random.whole(0, SUPPLIERS.length - 1),
    stage: random.chance(0.86) ? 'On sale' : random.pick(['Preparing', 'Resting', 'Retired'] as const),
    whenOut: random.pick(['show it as sold out', 'show it as sold out', 'hide it', 'take back-orders'] as const),
    kind,
    pictured: !random.chance(0.04),
    skus: makeSkus(random, kind, id, skusBefore, room),
  };
}

function makeSkus(random: Random, kind: Kind, product: number, before: number, room: number): DemoSku[] {
  const colours = kind.colours.length > 0 ? kind.colours.slice(0, random.whole(1, kind.colours.length)) : [null];
  const sizes = kind.sizes.length > 0 ? kind.sizes.slice(0, random.whole(1, kind.sizes.length)) : [null];
  const base = random.whole(kind.price[0], kind.price[1]);
  const share = random.chance(0.12) ? 0.6 + random.next() * 0.35 : 0.32 + random.next() * 0.22;
  const skus: DemoSku[] = [];
  for (const [place, size] of sizes.entries()) {
    for (const colour of colours) {
      if (skus.length >= room) return skus;
      const id = before + skus.length + 1;
      const price = Math.round((base * (1 + place * 0.45)) / 50) * 50 + (random.chance(0.7) ? -1 : 0);
      const digits = '9506' + String(id).padStart(8, '0');
      const gtin = digits + String((gtinCheckDigit(digits) + (random.chance(0.02) ? 1 : 0)) % 10);
      skus.push({
        id,
        code: [kind.prefix, String(product).padStart(4, '0'), colour && COLOUR_CODE(colour), size && SIZE_CODE(size)]
          .filter(Boolean)
          .join('-'),
        colour,
        size,
        gtin: random.chance(0.06) ? null : gtin,
        grams: random.chance(0.05) ? null : Math.round(kind.grams[0] + (kind.grams[1] - kind.grams[0]) * random.next()),
        price,
        cost: random.chance(0.02) ? null : Math.round((price / 1.2) * share),
        stock: random.chance(0.14) ? 0 : random.whole(1, 90),
      });
    }
  }
  return skus;
}
