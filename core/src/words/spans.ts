/** How words are looked for in a text. */
export interface Likeness {
  /** Letters, accents and apostrophes must be just as they are written. */
  readonly exactly?: boolean;
  /** No letter or digit may stand beside what is found. */
  readonly wholeWords?: boolean;
  /** Apostrophes may be left out, hyphens be spaces, and a possessive belongs to what is found: `Harrow's` is Harrow. */
  readonly loosely?: boolean;
}

/** Where something stands in a text, in characters: from the first to behind the last. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

const MARKS = /[\u0300-\u036f]/g;
const APOSTROPHE = /['‘’ʼ`´′]/;
const DASH = /[-‐‑‒–—]/;
const WORD = /[\p{L}\p{N}]/u;
const PLAIN = /^[ -~]*$/;
const POSSESSIVE = /^['‘’ʼ´′]s(?![\p{L}\p{N}])/iu;

/** Characters that were compared before: a shop's texts are written with few. */
const KNOWN = { loosely: new Map<string, string>(), strictly: new Map<string, string>() };
const MOST_KNOWN = 5_000;

/** One character as it is compared. */
function likeness(character: string, loosely: boolean): string {
  const known = loosely ? KNOWN.loosely : KNOWN.strictly;
  let alike = known.get(character);
  if (alike === undefined) {
    alike = likenessOf(character, loosely);
    if (known.size < MOST_KNOWN) known.set(character, alike);
  }
  return alike;
}

function likenessOf(character: string, loosely: boolean): string {
  if (APOSTROPHE.test(character)) return loosely ? '' : "'";
  if (DASH.test(character)) return loosely ? ' ' : '-';
  if (/\s/.test(character)) return ' ';
  return character.normalize('NFKD').replace(MARKS, '').toLowerCase().replaceAll('ß', 'ss').replaceAll('ς', 'σ');
}

/** A text as it is compared, and for each of its characters from where to where it stands in the text as written. */
interface Compared {
  readonly text: string;
  readonly begins: readonly number[];
  readonly ends: readonly number[];
}

function compared(text: string, loosely: boolean): Compared {
  let out = '';
  const begins: number[] = [];
  const ends: number[] = [];
  let at = 0;
  for (const character of text) {
    const alike = likeness(character, loosely);
    const end = at + character.length;
    // Spaces in a row are one, and marks belong to the letter before them.
    if (alike === ' ' && out.endsWith(' ')) ends[ends.length - 1] = end;
    else if (alike === '' && !APOSTROPHE.test(character)) {
      const last = begins.at(-1);
      for (let i = begins.length - 1; i >= 0 && begins[i] === last; i--) ends[i] = end;
    } else {
      out += alike;
      for (let i = 0; i < alike.length; i++) {
        begins.push(at);
        ends.push(end);
      }
    }
    at = end;
  }
  return { text: out, begins, ends };
}

/** Whether a text is compared by its small letters alone: it has neither accents nor double spaces. */
const comparesAsItIs = (text: string): boolean => PLAIN.test(text) && !/\s\s/.test(text);

/** What is looked for, made ready for many texts. */
export function finder(words: string, how: Likeness = {}): (text: string) => Span[] {
  const loosely = how.loosely === true;
  const needle = how.exactly ? words : compared(words.trim() === '' ? words : words.trim(), loosely).text;
  const isPlain = !loosely && comparesAsItIs(words);
  if (needle === '') return () => [];
  return (text) => {
    const spans: Span[] = [];
    const same = how.exactly === true || (isPlain && comparesAsItIs(text));
    const where: Compared | undefined = same ? undefined : compared(text, loosely);
    const within = where?.text ?? (how.exactly ? text : text.toLowerCase());
    for (let at = within.indexOf(needle); at >= 0;) {
      const from = where ? where.begins[at]! : at;
      const end = at + needle.length;
      let to = where ? where.ends[end - 1]! : end;
      if (loosely) to += POSSESSIVE.exec(text.slice(to))?.[0].length ?? 0;
      const fits = !how.wholeWords || (!isWordAt(text, from - 1) && !isWordAt(text, to));
      const isWhole = !where || holdsWholeCharacters(where, at, end);
      if (fits && isWhole) spans.push({ from, to });
      at = within.indexOf(needle, fits && isWhole ? end : at + 1);
    }
    return spans;
  };
}

/** A character that is compared as two, such as ß, is found whole or not at all. */
const holdsWholeCharacters = ({ begins }: Compared, at: number, end: number): boolean =>
  (at === 0 || begins[at - 1] !== begins[at]) && begins[end] !== begins[end - 1];

const isWordAt = (text: string, at: number): boolean => {
  if (at < 0 || at >= text.length) return false;
  const code = text.codePointAt(at)!;
  // The second half of a pair stands for the whole character.
  const character = code >= 0xdc00 && code <= 0xdfff ? text.slice(at - 1, at + 1) : String.fromCodePoint(code);
  return WORD.test(character);
};

/** A text with other words at some places. */
export function replaced(text: string, spans: readonly Span[], by: string): string {
  if (spans.length === 0) return text;
  let out = '';
  let at = 0;
  for (const { from, to } of spans) {
    out += text.slice(at, from) + by;
    at = to;
  }
  return out + text.slice(at);
}
