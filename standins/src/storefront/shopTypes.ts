// What the shop's HTTP interface answers, as far as the storefront shows it.

export interface Page {
  readonly head: string;
  readonly foot: string;
  readonly pageTitle: string;
  readonly pageDescription: string;
  readonly picture?: string | null;
}
export interface Category extends Page {
  readonly id: string;
  readonly parent: string | null;
  readonly name: string;
  readonly inMenu: boolean;
}
export interface Assortment extends Page {
  readonly id: string;
  readonly name: string;
  readonly inMenu: boolean;
  readonly frontRow: boolean;
  readonly headOf: readonly string[];
}
export interface Goods {
  readonly total: number;
  readonly products: readonly Product[];
}
export interface Tree {
  readonly shop: string;
  readonly timeZone: string;
  readonly seenBy: string | null;
  readonly categories: readonly Category[];
  readonly assortments: readonly Assortment[];
}
export interface Property {
  readonly name: string;
  readonly value: string;
  /** Of a value of an option: its colour, and the key of its picture. */
  readonly swatch?: string | null;
  readonly picture?: string | null;
}
export interface Variant {
  readonly code: string;
  readonly options: readonly Property[];
  readonly price: string;
  readonly picture: string | null;
  readonly was: string | null;
  readonly prior: string | null;
  readonly unitPrice: { readonly price: string; readonly per: string } | null;
  readonly steps: readonly { readonly from: number; readonly price: string }[];
  readonly state: string;
  readonly parts: readonly { readonly name: string; readonly times: number }[];
}
export interface Fit {
  readonly maker: string;
  readonly model: string;
  readonly from: number | null;
  readonly to: number | null;
  readonly note: string;
}
export interface Product {
  readonly slug: string;
  readonly name: string;
  readonly brand: string | null;
  readonly description: string;
  readonly picture: string | null;
  readonly variants: readonly Variant[];
  readonly attributes: readonly Property[];
  readonly category: string | null;
  readonly badges: readonly string[];
  readonly fits: readonly Fit[];
  readonly summary: string;
  readonly points: readonly string[];
  readonly parcelHolds: readonly string[];
  readonly announcement: string;
  readonly note: string;
  readonly boughtNote: string;
  readonly boughtFrom: string | null;
  readonly hazard: string;
  readonly condition: string | null;
  readonly personal: { readonly longest: number; readonly charge: string } | null;
  readonly pageTitle: string;
  readonly pageDescription: string;
  readonly pictures: readonly { readonly key: string; readonly alternative: string }[];
  readonly files: readonly { readonly name: string; readonly key: string; readonly bytes: number }[];
  readonly chosenBy: 'list' | 'swatches' | 'grid' | null;
  readonly goesWith?: readonly { readonly slug: string; readonly name: string }[];
}
export interface WantedLine {
  readonly code: string;
  readonly quantity: number;
  readonly text: string;
}
export interface BasketLine extends WantedLine {
  readonly slug: string;
  readonly name: string;
  readonly options: readonly Property[];
  readonly price: string;
  readonly sum: string;
  readonly problem: string | null;
}
export interface Basket {
  readonly lines: readonly BasketLine[];
  readonly gone: readonly string[];
  readonly total: string;
  readonly shipping: {
    readonly country: string;
    readonly charge: string | null;
  } | null;
  readonly withShipping: string | null;
  readonly notShipped: string | null;
  readonly countries: readonly { readonly code: string; readonly name: string }[];
}
