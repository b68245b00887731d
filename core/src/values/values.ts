import { type Field } from '../kinds/field.ts';
import type { Asking } from '../kinds/asking.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { slug, webAddress } from './addresses.ts';
import { choice, gaps, yesNo } from './choices.ts';
import { date } from './date.ts';
import { timeOfDay } from './timeOfDay.ts';
import { count, grams, money, number, percent } from './numbers.ts';
import { assortments, categories, lists, products, reference, references } from './references.ts';
import { rule } from './rule.ts';
import { content } from './content.ts';
import { countries, country, currency, customsCode, swatch, timeZone } from './standards.ts';
import { files } from './files.ts';
import { fits } from './fits.ts';
import { parts } from './parts.ts';
import { picture, pictures } from './pictures.ts';
import { reduction } from './reduction.ts';
import { richText } from './richText.ts';
import { rates } from './rates.ts';
import { priceFormula } from './priceFormula.ts';
import { shippingRates } from './shippingRates.ts';
import { salePrice } from './salePrice.ts';
import { textList } from './textList.ts';
import { titles } from './titles.ts';
import { template } from './template.ts';
import { code, gtin, gtinPrefix, longText, text } from './texts.ts';
import { type FieldValue, type ValueType, type ValueTypeKey } from './valueType.ts';

/** Every value type, by its key. A new one is a file beside these, a key and a line here; the server has its columns. */
export const VALUE_TYPES: Readonly<Record<ValueTypeKey, ValueType>> = {
  text,
  longText,
  code,
  gtin,
  money,
  percent,
  count,
  grams,
  number,
  date,
  timeOfDay,
  yesNo,
  choice,
  gaps,
  reference,
  references,
  categories,
  lists,
  assortments,
  products,
  rule,
  slug,
  webAddress,
  country,
  customsCode,
  currency,
  timeZone,
  swatch,
  content,
  textList,
  rates,
  fits,
  parts,
  pictures,
  picture,
  richText,
  template,
  gtinPrefix,
  files,
  reduction,
  salePrice,
  priceFormula,
  countries,
  shippingRates,
  titles,
};

/** The value type of a field. */
export const typeOf = (field: Field): ValueType => VALUE_TYPES[field.type];

/** In which field a problem is. */
export const placeOf = ({ key, name }: Field): { readonly field: string; readonly called: string } => ({
  field: key,
  called: name,
});

/**
 * Reads what a person or a file wrote into the field's canonical text; blank text is empty (`null`). A problem carries the
 * field. Refuses blank text where the field cannot be empty.
 */
export function readValue(field: Field, text: string, asking: Asking): Result<FieldValue> {
  if (text.trim() === '') return field.required ? bad('required', placeOf(field)) : good(null);
  const read = typeOf(field).read(text, field, asking);
  if (read.ok) return read;
  // What is wrong within a rule is told by the field that it asks for.
  return { ok: false, problem: { ...placeOf(field), ...read.problem, field: field.key } };
}

/** The value as shown in the sheet and the proof; what `readValue` reads back. Empty is an empty text. */
export const showValue = (field: Field, value: FieldValue, asking: Asking): string =>
  value === null ? '' : typeOf(field).show(value, field, asking);

/** The value for typing over: as shown, without the currency's sign, the unit or grouping. */
export function editValue(field: Field, value: FieldValue, asking: Asking): string {
  if (value === null) return '';
  const { edit, show } = typeOf(field);
  return (edit ?? show)(value, field, asking);
}

/** The values of a field that the shop has names for: choices, brands, suppliers, category paths, lists. */
export const knownValues = (field: Field, asking: Asking): string[] => typeOf(field).known?.(field, asking) ?? [];
