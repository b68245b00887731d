import { bad, good, type Result } from '../problems/problem.ts';
import { fold } from '../words/fold.ts';
import { EQUALITY, holdsText } from './comparing.ts';
import { choice } from './choices.ts';
import { COUNTRIES } from './countries.ts';
import { readEntries } from './divided.ts';
import { type ValueType } from './valueType.ts';

/** What every one of these types has: a text that a standard knows. */
const ofStandard: Pick<ValueType, 'isNumber' | 'isNamed' | 'comparisons' | 'usual' | 'show' | 'holds'> = {
  isNumber: false,
  isNamed: true,
  comparisons: EQUALITY,
  usual: 'is',
  show: (value) => value,
  holds: choice.holds,
};

const names = new Intl.DisplayNames(['en'], { type: 'region' });
/** The English name of a country, of its code. */
export const nameOfCountry = (code: string): string => names.of(code) ?? code;

/** A country, by its code of two letters (ISO 3166-1 alpha-2); written as the code or as its English name. */
export const country: ValueType = {
  ...ofStandard,
  read: (text) => readCountry(text),
  show: (value) => nameOfCountry(value),
  known: () => COUNTRIES.map(nameOfCountry),
};

/** Countries of some codes with their names, in the order of these. */
export const countriesByName = (codes: readonly string[]): { code: string; name: string }[] =>
  codes.map((code) => ({ code, name: nameOfCountry(code) })).sort((a, b) => a.name.localeCompare(b.name, 'en'));

/** Reads the code or the English name of a country. */
export function readCountry(text: string): Result<string> {
  const value = text.trim();
  const code = value.toUpperCase();
  const found = COUNTRIES.includes(code) ? code : COUNTRIES.find((one) => fold(nameOfCountry(one)) === fold(value));
  return found === undefined ? bad('country-unknown', { value, expected: 'GB' }) : good(found);
}

/** Several countries, divided by `|`: canonical are their codes in order. */
export const countries: ValueType = {
  isNumber: false,
  isNamed: false,
  comparisons: ['is empty', 'is filled'],
  usual: 'is filled',
  read: (text) => {
    const entries = readEntries(text, COUNTRIES.length);
    if (!entries.ok) return entries;
    const codes = new Set<string>();
    for (const entry of entries.value) {
      const code = readCountry(entry);
      if (!code.ok) return code;
      codes.add(code.value);
    }
    return good([...codes].sort().join('|'));
  },
  show: (value) => value.split('|').map(nameOfCountry).join(' | '),
  holds: () => false,
};

/** A customs code as it is compared: it is often written in groups of two or four digits. */
export const customsKey = (written: string): string => written.replace(/[\s.]/g, '');

/** A code of the Harmonized System (6 digits), the Combined Nomenclature (8) or the Taric (10). */
export const customsCode: ValueType = {
  ...ofStandard,
  isNamed: false,
  comparisons: [...EQUALITY, 'contains', 'starts with', 'ends with'],
  usual: 'starts with',
  read: (text) => {
    const digits = customsKey(text);
    return /^\d{6}(?:\d\d){0,2}$/.test(digits)
      ? good(digits)
      : bad('customs-code-unreadable', { value: text.trim(), expected: '4820 10' });
  },
  // What is no code may be asked for too: that is how one finds it.
  readWanted: (text) => good(/^[\d\s.]+$/.test(text) ? customsKey(text) : text),
  holds: (comparison, value, wanted) => holdsText(comparison, value, wanted, customsKey),
};

const CURRENCIES: ReadonlySet<string> = new Set(Intl.supportedValuesOf('currency'));

/** A currency, by its code of three letters (ISO 4217). */
export const currency: ValueType = {
  ...ofStandard,
  read: (text) => {
    const value = text.trim();
    const code = value.toUpperCase();
    return CURRENCIES.has(code) ? good(code) : bad('currency-unknown', { value, expected: 'EUR' });
  },
};

/** A zone of the IANA time zone database. */
export const timeZone: ValueType = {
  ...ofStandard,
  read: (text) => {
    const value = text.trim();
    try {
      return good(new Intl.DateTimeFormat('en', { timeZone: value }).resolvedOptions().timeZone);
    } catch {
      return bad('time-zone-unknown', { value, expected: 'Europe/London' });
    }
  },
};

/** A colour that a value of an option is shown by, as `#1e6b62` (CSS Color). */
export const swatch: ValueType = {
  ...ofStandard,
  isNamed: false,
  read: (text) => {
    const value = text.trim().toLowerCase();
    const short = /^#([0-9a-f])([0-9a-f])([0-9a-f])$/.exec(value);
    if (short)
      return good(
        `#${short
          .slice(1)
          .map((digit) => digit + digit)
          .join('')}`,
      );
    return /^#[0-9a-f]{6}$/.test(value) ? good(value) : bad('swatch-unreadable', { value, expected: '#1e6b62' });
  },
};
