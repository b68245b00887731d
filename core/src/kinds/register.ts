import { REPLIES } from './replies.ts';
import { type GapNeeds, GAPS, GTIN_TWICE, neededGaps, ownGapKey, ownGapName } from './gap.ts';
import { typeOf } from '../values/values.ts';
import { type OwnTypeKey, ownValueType } from '../values/valueType.ts';
import { type WhenOut } from '../stock/whenOut.ts';
import { fold } from '../words/fold.ts';
import { GOODS_FIELDS } from './goodsFields.ts';
import { LIST_FIELDS } from './listFields.ts';
import { type Field, type Found, isPerThing, type KeptFormula, withoutScope } from './field.ts';
import { type Rest } from './entry.ts';
import { type FieldKey, GOODS_KEYS, type KindKey, ownKey } from './keys.ts';
import { GOODS_WORDS } from './words.en.ts';

/** An option or attribute as the shop made it. */
export interface OwnField {
  readonly id: string;
  readonly kind: 'option' | 'attribute';
  readonly name: string;
  readonly type: OwnTypeKey;
  readonly unit: string | null;
  /** The column of the wide table that keeps its values; none while only a proof makes it. */
  readonly slot: string | null;
  /** Divided by commas. */
  readonly alsoCalled: string | null;
  readonly usedIn: readonly string[];
  readonly neededIn: readonly string[];
  readonly shopperSees: boolean;
  readonly feed: string | null;
}

/** What the shop itself adds to the fields that every shop has. */
export interface OwnThings {
  readonly fields: readonly OwnField[];
  /** What new products do when they are out of stock. */
  readonly outDefault?: WhenOut;
  readonly outlets: readonly { readonly id: string; readonly name: string; readonly formula?: KeptFormula | null }[];
  readonly sales?: readonly { readonly id: string; readonly name: string }[];
  readonly gapNeeds?: GapNeeds;
}

/** How a field is called in a question, word by word. */
export interface CalledField {
  readonly field: Field;
  readonly words: readonly string[];
}

/**
 * The fields of a shop: those that every shop has, and those that it made. A value, and not the module's: it is built from what
 * the shop has, and `version` changes with it.
 */
export class Register {
  /** Fields of products and SKUs, in the order in which the interface offers them. */
  readonly goods: readonly Field[];
  private readonly byAddress: ReadonlyMap<string, Field>;
  private calledOnce: readonly CalledField[] | undefined;
  private wordsOnce: ReadonlySet<string> | undefined;
  private quotedOnce: ReadonlyMap<string, Field> | undefined;

  constructor(
    readonly version: string,
    private readonly fields: readonly Field[],
    /** Where prices of the moment are found; undefined of a register that is of none. */
    readonly found?: Found,
  ) {
    this.goods = fields.filter(({ kind }) => kind === 'product' || kind === 'sku');
    this.byAddress = new Map([
      ...fields.map((field) => [`${field.kind} ${field.key}`, field] as const),
      ...this.goods.map((field) => [field.key, field] as const),
    ]);
  }

  /** The same register at a moment. */
  atMoment(found: Found): Register {
    return new Register(
      this.version,
      this.fields.map((field) => {
        if (OF_THE_MOMENT.includes(withoutScope(field.key))) return { ...field, found };
        const isPast = 'frame' in found && found.isPast === true;
        const isFound = isPast ? isOnRecord(field) : found.taxRates !== undefined && BY_TAX_RATE.includes(field.key);
        if (!isFound) return field;
        const { column: _, ...apart } = field;
        return { ...apart, found };
      }),
      found,
    );
  }

  /** The same register with another formula for an outlet. */
  withFormula(outlet: string, formula: KeptFormula | null): Register {
    const fields = this.fields.map((field) =>
      field.outlet?.id === outlet ? { ...field, outlet: { id: outlet, formula } } : field,
    );
    return new Register(this.version, fields, this.found);
  }

  /** The same register with sales that are not in the shop yet. */
  withSales(sales: NonNullable<OwnThings['sales']>): Register {
    const more = sales.filter(({ id }) => !this.find(`salePrice@${id}`)).map(priceIn);
    return more.length === 0 ? this : new Register(this.version, [...this.fields, ...more], this.found);
  }

  /** The same register with options and attributes that are not in the shop yet. */
  withOwn(fields: readonly OwnField[]): Register {
    const more = fields.filter(({ id }) => !this.find(ownKey(id))).map(fieldOfOwn);
    return more.length === 0 ? this : new Register(this.version, [...this.fields, ...more], this.found);
  }

  /** The same register without an option or attribute of the shop. */
  without(id: string): Register {
    const others = this.fields.filter(({ own }) => own?.id !== id);
    return others.length === this.fields.length ? this : new Register(this.version, others, this.found);
  }

  /** A field of products or SKUs; undefined when the shop has none of this key. */
  find(key: string): Field | undefined {
    return this.byAddress.get(key);
  }

  /** The same, where there must be one; throws otherwise. */
  get(key: FieldKey): Field {
    const field = this.find(key);
    if (!field) throw new Error(`the shop has no field ${key}`);
    return field;
  }

  /** The fields of a kind. */
  of(kind: KindKey): readonly Field[] {
    return this.fields.filter((field) => field.kind === kind);
  }

  /** The field of a line: of a kind, by its key and scope. */
  at(kind: string, key: string, scope = '0'): Field | undefined {
    return this.byAddress.get(`${kind} ${scope === '0' ? key : `${key}@${scope}`}`);
  }

  /** All fields that refer to a kind, by which its things are in use. */
  referring(kind: KindKey): readonly Field[] {
    return this.fields.filter(({ refersTo }) => refersTo?.kind === kind);
  }

  /** All fields whose values name things within a text of their own, as rules do. */
  namingWithin(): readonly Field[] {
    return this.fields.filter((field) => typeOf(field).namesWithin !== undefined);
  }

  /** What fields are called in a question, names of more words first. A name wins over what another is also called. */
  get called(): readonly CalledField[] {
    return (this.calledOnce ??= callFields(this.goods));
  }

  /** Fields by their folded names that only quotes hold together: with commas, quotes, parentheses or signs in them. */
  get calledInQuotes(): ReadonlyMap<string, Field> {
    return (this.quotedOnce ??= new Map(
      this.called.flatMap(({ field, words }) => {
        const name = words.join(' ');
        return NEEDS_QUOTES.test(name) ? [[name, field] as const] : [];
      }),
    ));
  }

  /** Whether a word stands in the name of a field. */
  isFieldWord(text: string): boolean {
    // Names of sales are made of common words; none of them is taken for a field without what stands before it.
    this.wordsOnce ??= new Set(
      this.called.flatMap(({ field, words }) => (isPerThing(field) ? words.slice(0, 1) : words)),
    );
    return this.wordsOnce.has(fold(text));
  }
}

/** What a question divides words at. */
const NEEDS_QUOTES = /["“”„(),<>=≤≥≠]/;
/** Whether a name must stand in quotes where a question has it. */
export const needsQuotes = (name: string): boolean => NEEDS_QUOTES.test(name);

function callFields(goods: readonly Field[]): CalledField[] {
  const called = new Map<string, CalledField>();
  const call = (field: Field, name: string) => {
    const key = fold(name);
    if (key !== '' && !called.has(key)) called.set(key, { field, words: key.split(' ') });
  };
  for (const field of goods) call(field, field.name);
  for (const field of goods) for (const name of field.alsoCalled) call(field, name);
  return [...called.values()].sort((a, b) => b.words.length - a.words.length);
}

/** The register of a shop; `more` are fields that a deployment adds to the built-in ones. */
export function buildRegister(
  version: string,
  { fields, outlets, outDefault, sales = [], gapNeeds }: OwnThings,
  more: readonly Field[] = [],
): Register {
  const own = fields.map(fieldOfOwn);
  const attributes = own.filter(({ own }) => own?.of === 'attribute');
  const gaps = [
    ...[...GAPS, GTIN_TWICE, ...(gapNeeds ? neededGaps(gapNeeds) : [])].map((gap) => ({ key: gap, name: gap })),
    ...attributes
      .filter(({ own }) => own!.neededIn.length > 0)
      .map(({ own, name }) => ({ key: ownGapKey(own!.id), name: ownGapName(name) })),
  ];
  const goods: Field[] = [
    ...GOODS_FIELDS.map((field) =>
      field.key === 'whenOut' && outDefault !== undefined ? { ...field, initial: outDefault } : field,
    ),
    {
      key: 'gap',
      kind: 'sku',
      ...GOODS_WORDS.gap,
      type: 'gaps',
      shopperSees: false,
      store: { in: 'computed' },
      column: 'gaps',
      choices: gaps,
      ...(gapNeeds && { gapNeeds }),
    },
    ...outlets.map((outlet) => replyOf(outlet, outlets.length === 1)),
    ...outlets.flatMap(pricesOn),
    ...sales.map(priceIn),
  ];
  // Options stand beside the code, as they tell one SKU of a product from another.
  const places = new Map(GOODS_KEYS.map((key, i) => [key as string, i]));
  const placeOf = (field: Field) =>
    places.get(field.key.replace(/@.*/, '')) ?? (field.own?.of === 'option' ? 1.5 : 5.5);
  const inOrder = [...goods, ...own].sort((a, b) => placeOf(a) - placeOf(b));
  return new Register(version, [...inOrder, ...more, ...LIST_FIELDS]);
}

/** The price of an SKU in a sale. */
const priceIn = ({ id, name }: { readonly id: string; readonly name: string }): Field => ({
  key: `salePrice@${id}`,
  kind: 'sku',
  name: `${GOODS_WORDS.salePrice.name} ${name}`,
  alsoCalled: [],
  type: 'salePrice',
  shopperSees: true,
  tax: 'with',
  store: { in: 'scoped', table: 'sale_line', key: 'sku_id', scope: 'sale_id', column: 'price', per: 'sale' },
});

/** Fields of an SKU's price on an outlet: the result of the formula, its margin, and a price or formula of the SKU's own. */
function pricesOn({ id, name, formula = null }: OwnThings['outlets'][number]): Field[] {
  const of = (key: 'onOutlet' | 'outletMargin' | 'outletPrice', rest: Rest): Field => ({
    key: `${key}@${id}`,
    kind: 'sku',
    name: `${GOODS_WORDS[key].name} ${name}`,
    alsoCalled: [],
    shopperSees: false,
    ...rest,
  });
  const outlet = { id, formula };
  return [
    of('onOutlet', { type: 'money', tax: 'with', store: { in: 'computed' }, outlet }),
    of('outletMargin', { type: 'percent', store: { in: 'computed' }, outlet }),
    of('outletPrice', {
      type: 'priceFormula',
      store: { in: 'scoped', table: 'outlet_line', key: 'sku_id', scope: 'outlet_id', column: 'formula' },
    }),
  ];
}

/** Fields whose values are those of the moment. */
const OF_THE_MOMENT: readonly string[] = [
  ...['current', 'sale', 'reducedBy', 'currentMargin', 'unitPrice', 'onOutlet', 'outletMargin'],
];
/** Of these, what has no record: at a past moment nothing is known of it. */
const NOT_ON_RECORD: readonly string[] = ['onOutlet', 'outletMargin'];
/** Fields whose values of before are on record; in the past they are read from there, and not from the read model. */
const ON_RECORD: readonly string[] = ['price', 'cost', 'margin', 'markup', 'profit'];

/** Fields that tax rates decide. At a past moment, the journal has what the rate of goods was. */
const BY_TAX_RATE: readonly string[] = ['taxRate', 'margin', 'markup', 'profit'];

/** Whether the values of before are on record, and read from there at a past moment. */
const isOnRecord = ({ key }: Pick<Field, 'key'>): boolean => ON_RECORD.includes(key);

/**
 * What is known of a field at a past moment: its value then, by the record of prices or the journal; nothing; or, for a computed
 * field, its value of today.
 */
export function inThePast({ key, store }: Pick<Field, 'key' | 'store'>): 'known' | 'not on record' | 'today' {
  const name = withoutScope(key);
  if (NOT_ON_RECORD.includes(name)) return 'not on record';
  return store.in !== 'computed' || OF_THE_MOMENT.includes(name) || ON_RECORD.includes(name) ? 'known' : 'today';
}

/** What an outlet replied; with a single outlet there is no need to say whose. */
function replyOf({ id, name }: { readonly id: string; readonly name: string }, alone: boolean): Field {
  const { name: reply, alsoCalled } = GOODS_WORDS.reply;
  return {
    key: `reply@${id}`,
    kind: 'sku',
    name: alone ? reply : `${reply} of ${name}`,
    alsoCalled: alone ? [...alsoCalled, `${reply} of ${name}`] : [],
    type: 'choice',
    shopperSees: false,
    store: { in: 'computed' },
    column: 'reply',
    choices: REPLIES.map((key) => ({ key, name: key })),
  };
}

function fieldOfOwn(own: OwnField): Field {
  const { id, kind, name, type, unit, slot, alsoCalled, usedIn, neededIn, shopperSees, feed } = own;
  const valueType = ownValueType(type);
  return {
    key: ownKey(id),
    kind: kind === 'option' ? 'sku' : 'product',
    name,
    alsoCalled: (alsoCalled ?? '')
      .split(',')
      .map((one) => one.trim())
      .filter(Boolean),
    type: valueType,
    shopperSees,
    store: slot === null ? { in: 'proposed' } : { in: 'own', slot },
    ...((valueType === 'reference' || valueType === 'references') && { refersTo: { kind: 'choice' as const, of: id } }),
    ...(unit !== null && { unit }),
    longest: 500,
    own: { id, of: kind, usedIn, neededIn, feed },
  };
}
