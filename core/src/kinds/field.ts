import { type GapNeeds } from './gap.ts';
import { type Moment } from '../moments/moment.ts';
import { type FormulaBase } from '../prices/outletPrice.ts';
import { type ValueTypeKey } from '../values/valueType.ts';
import { type FieldKey, type KindKey } from './keys.ts';

/** A value that can be chosen: `key` is the canonical text, `name` what people read. */
export interface Choice {
  readonly key: string;
  readonly name: string;
}

/** What a field refers to: things of a kind, or those of them that hang on one thing, such as the values of an option. */
export interface Reference {
  readonly kind: KindKey | 'list';
  readonly of?: string;
}

/** How the values of a field are kept; each has its file in `server/src/changes/stores`. */
export type Store =
  /**
   * A column of the thing's table, or of one beside it whose key is the thing's id. `onRecord` is the table that keeps what stood in it
   * before, and since when.
   */
  | {
      readonly in: 'column';
      readonly table: string;
      readonly key: string;
      readonly column: string;
      readonly onRecord?: 'price_past';
    }
  /** A table that joins things in order, the whole list a value; `times` is its column for how many of each. */
  | {
      readonly in: 'list';
      readonly table: string;
      readonly key: string;
      readonly column: string;
      readonly times?: string;
    }
  /** A table with a row for each thing and scope; `per` is the kind whose things the scopes are, where each has such a field. */
  | {
      readonly in: 'scoped';
      readonly table: string;
      readonly key: string;
      readonly scope: string;
      readonly column: string;
      readonly per?: KindKey;
    }
  /** The sum of stock movements. */
  | { readonly in: 'movements' }
  /** A column of the wide table beside the thing's own, as fields that the shop makes have. */
  | { readonly in: 'own'; readonly slot: string }
  /** Nowhere yet: a field that the proof in hand makes gets its column when it lands. */
  | { readonly in: 'proposed' }
  /** Worked out from other values, or said by somebody else. */
  | { readonly in: 'computed' };

/** Where prices of a moment are found: in a frame, as `server/src/frames/frames.ts` makes them, or for each SKU by itself. */
export type Found = ({ readonly frame: string; readonly isPast?: boolean } | { readonly at: Moment }) & {
  /** The day of the shop that the moment is on. */
  readonly day: number;
  /** Of another moment than now: the rates that tax classes have then whose rate changes on a day. */
  readonly taxRates?: readonly { readonly taxClass: string; readonly rate: number }[];
  /** Of prices of a customer group: where those of everybody are found, which is what outlets are told. */
  readonly forAnybody?: { readonly frame: string } | { readonly at: Moment };
};

/** The parts of a folio, in their order. */
export const SECTION_KEYS = [
  ...(['words', 'facts', 'goods', 'shown', 'selling', 'variants', 'prices', 'pictures', 'parcel'] as const),
  ...(['found by', 'relations', 'proofs'] as const),
] as const;
export type SectionKey = (typeof SECTION_KEYS)[number];

/** The formula of an outlet as the shop keeps it: canonical, with the days between which it holds. */
export interface KeptFormula {
  readonly basedOn: FormulaBase;
  readonly formula: string;
  readonly from: number | null;
  readonly until: number | null;
}

/** The price formula of an outlet; without one it asks the shop's prices. */
export interface OutletTerms {
  readonly id: string;
  readonly formula: KeptFormula | null;
}

/** One field of a kind, described once: sheet, question, import, proof, journal and feed read this. */
export interface Field {
  readonly key: FieldKey;
  readonly kind: KindKey;
  /** Its name in the interface and in questions. */
  readonly name: string;
  /** What suppliers and shopkeepers also call it: for matching headings and reading questions. */
  readonly alsoCalled: readonly string[];
  readonly type: ValueTypeKey;
  readonly store: Store;
  readonly shopperSees: boolean;
  /** Its column in the read model, one row an SKU; without one the field is not asked for there. */
  readonly column?: string;
  /** Its folded twin in the read model, which text is compared through. */
  readonly folded?: string;
  /** It is too long for a row of the sheet, or found another way. */
  readonly notInRows?: true;
  readonly choices?: readonly Choice[];
  readonly refersTo?: Reference;
  /** The part of its thing's folio in which it stands. */
  readonly section?: SectionKey;
  /** Its place among the fields that stand beside a row in hand, in the slip; without one it does not. */
  readonly inSlip?: number;
  /** Only SKUs that are sets of others have it. */
  readonly ofSets?: true;
  /** It cannot be empty. */
  readonly required?: true;
  /** It limits to whom or when a price applies: emptying it widens the audience, which asks for agreement. */
  readonly limits?: true;
  /** It is set when the thing is made and stays so. */
  readonly onlyAtCreation?: true;
  /** What it has where the line that makes the thing says nothing. */
  readonly initial?: string;
  readonly longest?: number;
  readonly unit?: string;
  /** Whether the amount is with tax or before it. */
  readonly tax?: 'with' | 'before';
  /** The least and the largest that it can be set to, in canonical numbers. */
  readonly range?: readonly [number, number];
  /** Of a field of the moment: where its values are found. */
  readonly found?: Found;
  /** Of gaps: what the shop wants of goods besides what every shop does. */
  readonly gapNeeds?: GapNeeds;
  /** Of a price on an outlet: how the outlet comes to it. */
  readonly outlet?: OutletTerms;
  /** Of a field that the shop made: which it is, the categories whose goods have and need it, and what feeds call it. */
  readonly own?: {
    readonly id: string;
    readonly of: 'option' | 'attribute';
    readonly usedIn: readonly string[];
    readonly neededIn: readonly string[];
    readonly feed: string | null;
  };
}

/** Whether there is such a field for each thing of a kind, such as a sale: there may be hundreds, and they come only where they are named. */
export const isPerThing = ({ store }: Field): boolean => store.in === 'scoped' && store.per !== undefined;

/** Whether a value of the field is kept, and not worked out from others. */
export const isStored = ({ store }: Field): boolean => store.in !== 'computed';

/** Whether a person or an import may change it; the others follow from it or come from outlets. */
export const isEditable = (field: Field): boolean => isStored(field) && field.onlyAtCreation === undefined;

/** Whether the values of a field are products or SKUs, whose codes are too many to be read with the names of the shop. */
export const holdsOtherGoods = ({ type }: Pick<Field, 'type'>): boolean => type === 'products' || type === 'parts';

/** What is given by hand: pictures. */
const BY_HAND: readonly ValueTypeKey[] = ['pictures', 'picture'];

/** Whether a file may bring its values; that goods are cleared away is done by hand too. */
export const isTakenIn = (field: Field): boolean =>
  isEditable(field) && !BY_HAND.includes(field.type) && field.key !== 'clearedAway';

/** What decides whether shoppers meet goods and can buy them, though they do not read it. */
const DECIDES: readonly FieldKey[] = [
  ...(['stage', 'bought', 'boughtFrom', 'inCategories', 'bySearch', 'whenOut', 'stock', 'clearedAway'] as const),
];

/** Whether shoppers see something else when the field of goods changes. */
export const shopperMeets = ({ kind, key, shopperSees, store }: Field): boolean =>
  (kind === 'product' || kind === 'sku') && store.in !== 'computed' && (shopperSees || DECIDES.includes(key));

/** The scope of a field's values: `0` where they have none. */
export const scopeOf = (key: string): string => (key.includes('@') ? key.slice(key.indexOf('@') + 1) : '0');
/** The key without its scope, as lines keep it. */
export const withoutScope = (key: string): string => (key.includes('@') ? key.slice(0, key.indexOf('@')) : key);
/** The key of a field as questions and columns name it, of a line's field and scope. */
export const keyWithScope = (field: string, scope: string): FieldKey =>
  (scope === '0' ? field : `${field}@${scope}`) as FieldKey;
