import { finder, type Span } from './spans.ts';

/** The possessive at the end of a name. */
const OWN_POSSESSIVE = /['‘’ʼ`´′]s$/iu;
/** What joins two names: a sign, or the word for it. */
const AND = /\s*&\s*|\s+and\s+/giu;
/** What belongs to a name before and behind it, and is nothing without it. */
const BEFORE = /(?:^|\s)by\s+$/iu;
const BEHIND = /^\s*[®™©℠]+/u;
/** A word goes on over a hyphen: `Moss-green` is not Moss. */
const GOES_ON = /^[-‐‑][\p{L}\p{N}]/u;
const CAME_FROM = /[\p{L}\p{N}][-‐‑]$/u;

/** The ways in which a name is written: with `&` or the word for it, with or without its possessive, and written together. */
function formsOf(name: string): string[] {
  const bare = name.replace(OWN_POSSESSIVE, '');
  const forms = [name, bare].flatMap((one) => [
    one,
    one.replace(AND, ' and '),
    one.replace(AND, ' & '),
    one.replace(AND, '&'),
    one.replace(AND, ' & ').replace(/\s+/g, ''),
  ]);
  return [...new Set(forms)].filter((form) => form.trim() !== '');
}

/**
 * Finds a name, such as that of a brand, where it stands as words of its own in a text, however it is written there (common practice):
 * in any case, with other apostrophes or none, with or without a possessive, with `&` or *and*, written together; with `by` before it
 * and `®` or `™` behind it. Of what lies over one another, the first and longest is found.
 */
export function nameFinder(name: string): (text: string) => Span[] {
  const finders = formsOf(name).map((form) => finder(form, { wholeWords: true, loosely: true }));
  return (text) => {
    const all = finders
      .flatMap((find) => find(text))
      .filter(({ from, to }) => !GOES_ON.test(text.slice(to)) && !CAME_FROM.test(text.slice(0, from)))
      .sort((a, b) => a.from - b.from || b.to - a.to);
    const spans: Span[] = [];
    for (const span of all) {
      if (span.from < (spans.at(-1)?.to ?? 0)) continue;
      const before = BEFORE.exec(text.slice(0, span.from))?.[0].trimStart().length ?? 0;
      const behind = BEHIND.exec(text.slice(span.to))?.[0].length ?? 0;
      spans.push({ from: Math.max(span.from - before, spans.at(-1)?.to ?? 0), to: span.to + behind });
    }
    return spans;
  };
}
