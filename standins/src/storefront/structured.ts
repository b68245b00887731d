import { type Category, type Product } from './shopTypes.ts';

/** JSON that stands in a page: no text in it can end the element around it. */
export const inScript = (data: unknown): string => JSON.stringify(data).replaceAll('<', '\\u003c');

const IN_STOCK: Readonly<Record<string, string>> = {
  'in stock': 'InStock',
  'back-order': 'BackOrder',
  'not yet': 'PreOrder',
};

const CONDITIONS: Readonly<Record<string, string>> = {
  new: 'NewCondition',
  used: 'UsedCondition',
  refurbished: 'RefurbishedCondition',
  damaged: 'DamagedCondition',
};

/** A product in the words of schema.org: Product with an Offer for each variant, and the way to it as a BreadcrumbList. */
export function structured(product: Product, above: readonly Category[], origin: string): unknown {
  const url = `${origin}/products/${product.slug}`;
  const crumbs = [
    ...above.map(({ id, name }) => ({ name, item: `${origin}/categories/${id}` })),
    { name: product.name, item: url },
  ];
  return {
    '@context': 'https://schema.org',
    '@graph': [
      {
        '@type': 'Product',
        name: product.name,
        description: product.summary || product.description.replace(/<[^<>]*>/g, ' ').trim(),
        url,
        ...(product.brand !== null && { brand: { '@type': 'Brand', name: product.brand } }),
        image: product.pictures.map(({ key }) => `${origin}/pictures/${key}-large.webp`),
        offers: product.variants.map((one) => ({
          '@type': 'Offer',
          sku: one.code,
          price: (Number(one.price) / 100).toFixed(2),
          priceCurrency: 'GBP',
          availability: `https://schema.org/${IN_STOCK[one.state] ?? 'OutOfStock'}`,
          itemCondition: `https://schema.org/${CONDITIONS[product.condition ?? 'new']}`,
          url: `${url}?sku=${encodeURIComponent(one.code)}`,
        })),
      },
      {
        '@type': 'BreadcrumbList',
        itemListElement: crumbs.map((crumb, i) => ({ '@type': 'ListItem', position: i + 1, ...crumb })),
      },
    ],
  };
}
