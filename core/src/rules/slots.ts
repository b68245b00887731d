import { type Asking } from '../kinds/asking.ts';
import { type Field } from '../kinds/field.ts';
import { ENDING_NAMES } from '../money/endings.ts';
import { plainPercent, percent as asPercent, readPercent } from '../money/percent.ts';
import { bad, good, type Result } from '../problems/problem.ts';
import { editValue, knownValues, readValue, typeOf } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { nearest } from '../words/nearest.ts';
import { readTemplate, templateFields, templateText } from '../words/template.ts';

/** What a sentence says besides its verb and its field: how it is written, and read into canonical text. */
export interface Slot {
  /** In quotes, as the name of a field, or as words up to what follows. */
  readonly written: 'quoted' | 'field' | 'words';
  /** Reads what was typed; `target` is the field that the sentence is about. */
  readonly read: (text: string, target: Field, asking: Asking) => Result<string>;
  readonly show: (value: string, target: Field, asking: Asking) => string;
  /** What can be chosen, where that is known. */
  readonly offered?: (target: Field, asking: Asking) => readonly string[];
  /** What is meant where nothing is said, so that the words before it may be left out too. */
  readonly initial?: string;
  /** The fields that a value of it names, which rows must have. */
  readonly reads?: (value: string) => readonly string[];
  /** Nothing else than what is offered can stand there. */
  readonly isClosed?: true;
  /** What it may look like. */
  readonly example: string;
}

/** Whether what a slot says can come from a table: what names fields cannot, since rows are read with the fields that a rule names. */
export const canBeTable = (slot: Slot): boolean => slot.reads === undefined;

const MISSING = (example: string) => bad('slot-empty', { value: '', expected: example });

/** A value of the field itself. */
export const value: Slot = {
  written: 'words',
  example: '12.50',
  read: (text, target, asking) => {
    const read = readValue(target, text, asking);
    if (!read.ok) return read;
    return read.value === null ? MISSING('12.50') : good(read.value);
  },
  show: (canonical, target, asking) => editValue(target, canonical, asking),
  offered: knownValues,
};

/** One value of a field that holds several. */
export const oneValue: Slot = {
  ...value,
  example: 'Gift',
  read: (text, target, asking) => {
    const read = value.read(text, target, asking);
    return read.ok && read.value.split(target.type === 'textList' ? '\n' : '|').length > 1
      ? bad('slot-empty', { value: text, expected: 'one value' })
      : read;
  },
};

const PERCENT = '%';
const IN_WORDS = /\bper ?cent\s*$/i;

/** An amount of the field, or a share of it with a per-cent sign: `20` is never taken for `20 %`. Kept with the sign behind. */
export const amountOrShare: Slot = {
  written: 'words',
  example: '4 %',
  read: (text, target, asking) => {
    const written = text.trim();
    if (written === '') return MISSING('4 %');
    // A sign would say the opposite of the verb, or the same twice.
    if (/^[-−+]/.test(written)) return bad('amount-signed', { value: written, expected: written.slice(1).trim() });
    if (written.includes(PERCENT) || IN_WORDS.test(written)) {
      const read = readPercent(written.replace(IN_WORDS, PERCENT));
      return read.ok ? good(`${read.value}${PERCENT}`) : read;
    }
    return readAmount(written, target, asking);
  },
  show: (canonical, target, asking) => {
    const share = shareOf(canonical);
    return share === undefined ? editValue(target, canonical, asking) : `${plainPercent(share)} ${PERCENT}`;
  },
};

/** The share in ten-thousandths of a per cent; undefined where the text is an amount. */
export const shareOf = (canonical: string) =>
  canonical.endsWith(PERCENT) ? asPercent(BigInt(canonical.slice(0, -1))) : undefined;

/** An amount in the units of a field; its range is not asked for, as it is a difference. */
function readAmount(text: string, target: Field, asking: Asking): Result<string> {
  const { range: _, ...rest } = target;
  // A difference of prices in a sale is money: “as the sale” is none.
  const type = target.type === 'salePrice' ? 'money' : target.type;
  return typeOf({ ...rest, type }).read(text, { ...rest, type }, asking);
}

/** An amount that is added, or taken away where it has a minus. */
export const signedAmount: Slot = {
  written: 'words',
  example: '1.50',
  initial: '0',
  read: (text, target, asking) => {
    const isLess = /^[-−]/.test(text.trim());
    const read = readAmount(text.trim().replace(/^[-−+]\s*/, ''), target, asking);
    return read.ok && isLess && read.value !== '0' ? good(`-${read.value}`) : read;
  },
  show: (canonical, target, asking) =>
    canonical.startsWith('-')
      ? `-${editValue(target, canonical.slice(1), asking)}`
      : editValue(target, canonical, asking),
};

/** A percentage; the sign may stand or not. */
export const percent: Slot = {
  written: 'words',
  example: '40 %',
  read: (text) => {
    const read = readPercent(text);
    return read.ok ? good(read.value.toString()) : read;
  },
  show: (canonical) => `${plainPercent(asPercent(BigInt(canonical)))} ${PERCENT}`,
};

const FACTOR = /^(\d{1,6})(?:[.,](\d{1,6}))?$/;
/** A factor, in millionths. */
export const factor: Slot = {
  written: 'words',
  example: '1.2',
  read: (text) => {
    const [, whole, decimals = ''] = FACTOR.exec(text.trim()) ?? [];
    if (whole === undefined) return bad('factor-unreadable', { value: text.trim(), expected: '1.2' });
    return good(BigInt(whole + decimals.padEnd(6, '0')).toString());
  },
  show: (canonical) => {
    const padded = canonical.padStart(7, '0');
    const decimals = padded.slice(-6).replace(/0+$/, '');
    return padded.slice(0, -6) + (decimals && `.${decimals}`);
  },
};

/** A whole number between limits. */
export const wholeNumber = (least: number, greatest: number, example: string): Slot => ({
  written: 'words',
  example,
  read: (text) => {
    const number = /^[-−]?\d{1,6}$/.test(text.trim()) ? Number(text.trim().replace('−', '-')) : NaN;
    if (Number.isNaN(number)) return bad('count-unreadable', { value: text.trim(), expected: example });
    return number < least || number > greatest
      ? bad('out-of-range', { value: text.trim(), expected: `${least} to ${greatest}` })
      : good(String(number));
  },
  show: (canonical) => canonical,
});

const LONGEST_TEXT = 2_000;
/** A text as it stands, with the spaces at its ends; `canBeEmpty` where nothing may be meant. */
export const quoted = (example: string, canBeEmpty = false): Slot => ({
  written: 'quoted',
  example,
  read: (text) => {
    if (text === '' && !canBeEmpty) return MISSING(`"${example}"`);
    return text.length > LONGEST_TEXT
      ? bad('text-too-long', { value: text.slice(0, 40), expected: String(LONGEST_TEXT) })
      : good(text);
  },
  show: (canonical) => canonical,
});

/** Another field of goods that fits the target; kept by its key. */
export const otherField = (fits: (other: Field, target: Field) => boolean, example: string): Slot => ({
  written: 'field',
  example,
  read: (text, target, asking) => {
    const found = fieldNamed(text, asking) ?? asking.register.find(text);
    if (found && fits(found, target)) return good(found.key);
    const names = asking.register.goods.filter((other) => fits(other, target)).map(({ name }) => name);
    return bad('slot-field', { value: text.trim(), expected: nearest(text, names) ?? names[0] ?? example });
  },
  show: (key, _target, { register }) => register.find(key)?.name ?? key,
  reads: (key) => [key],
  offered: (target, { register }) => register.goods.filter((other) => fits(other, target)).map(({ name }) => name),
});

/** A field of goods by what it is called. */
export const fieldNamed = (text: string, { register }: Asking): Field | undefined => {
  const wanted = fold(text);
  return register.called.find(({ words }) => words.join(' ') === wanted)?.field;
};

/** One of a few words. */
export const oneOf = (choices: readonly string[], initial?: string): Slot => ({
  written: 'words',
  isClosed: true,
  example: choices[0]!,
  ...(initial !== undefined && { initial }),
  read: (text) => {
    const found = choices.find((choice) => fold(choice) === fold(text));
    if (found !== undefined) return good(found);
    return bad('choice-unknown', { value: text.trim(), expected: choices.join(', ') });
  },
  show: (canonical) => canonical,
  offered: () => choices,
});

export const direction = oneOf(['nearest', 'up', 'down'], 'nearest');
export const ending = oneOf(ENDING_NAMES);

/** A template of fields in braces; kept by the keys of the fields. */
export const template: Slot = {
  written: 'quoted',
  example: '{brand} {name}',
  read: (text, _target, asking) => {
    if (text.trim() === '') return MISSING('"{brand} {name}"');
    const read = readTemplate(text, (written) => fieldNamed(written, asking)?.key);
    return read.ok ? good(templateText(read.value, (key) => key)) : read;
  },
  show: (canonical, _target, { register }) => {
    const read = readTemplate(canonical, (key) => key);
    return read.ok ? templateText(read.value, (key) => register.find(key)?.name ?? key) : canonical;
  },
  reads: templateFields,
};

/** Fields whose values can stand in a text. */
export const saysSomething = (other: Field): boolean => other.notInRows === undefined || other.type === 'text';
export const isMoney = (field: Field): boolean => field.type === 'money';
/** An amount of money in another field, as the cost. */
export const otherMoney = otherField((other, target) => isMoney(other) && other.key !== target.key, 'cost');
