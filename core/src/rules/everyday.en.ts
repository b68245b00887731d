import { quote } from './sentence.ts';

/** A way of saying a step that is not its own sentence, and the sentences that it may mean, the likeliest first. */
interface Everyday {
  readonly said: RegExp;
  readonly means: (...parts: string[]) => readonly string[];
}

/** A text in quotes, as it is where it stands in quotes already. */
const quoted = (text: string): string => (isQuoted(text) ? text.trim() : quote(text.trim()));

const isQuoted = (text: string): boolean => /^".*"$/s.test(text.trim());
/** Words that are put behind a text, or before one: with a space between, unless they stand in quotes as they are meant. */
const behind = (words: string): string => (isQuoted(words) ? words.trim() : quote(` ${words.trim()}`));
const before = (words: string): string => (isQuoted(words) ? words.trim() : quote(`${words.trim()} `));

/** The ways to divide words in two, the shorter beginning first: a field has no mark where its name ends. */
const divided = (text: string): (readonly [string, string])[] => {
  const words = text.trim().split(/\s+/);
  return words.slice(1).map((_, i) => [words.slice(0, i + 1).join(' '), words.slice(i + 1).join(' ')] as const);
};

const UP = 'increase|raise|up|put up|mark up|hike|lift|bump up|bump|push up|grow|make dearer|plus';
const DOWN =
  'decrease|reduce|lower|drop|cut|discount|mark down|bring down|put down|knock down|take down|shave|make cheaper|minus';
const AMOUNT = String.raw`[£$€]?\d[\d.,]*\s*(?:%|per ?cent|percent)?`;
const UPPER = 'upper ?case|capital letters|capitals|block capitals|all caps|caps|upper';
const LOWER = 'lower ?case|small letters|lower|small';
const TITLE = 'title ?case|capital first letters|initial capitals|headline case|proper case|title';
const CHARACTERS = String.raw`(?:characters?|chars?|letters?|signs?)`;
const DAYS: Readonly<Record<string, number>> = { day: 1, week: 7, fortnight: 14 };

const lettersMeant = (words: string): string =>
  new RegExp(`^(?:${UPPER})$`, 'i').test(words)
    ? 'capitals'
    : new RegExp(`^(?:${LOWER})$`, 'i').test(words)
      ? 'small letters'
      : 'title case';

const toLetters = (field: string, words: string): string => `change ${field} to ${lettersMeant(words)}`;
const forMargin = (field: string, share: string, by: string): readonly string[] => [
  `work out ${field} from cost for a ${by} of ${share}`,
];
/** What may be meant by taking something out of a field: a value of a set, a word, or what another field says. */
const without = (said: string, field: string): readonly string[] => {
  const what = said.replace(/^(?:the )?(?:words?|text|phrase) (?=\S)/i, '');
  return [
    `take ${what} from ${field}`,
    `remove the ${what.replace(/^the /i, '')} from ${field}`,
    `remove ${quoted(what)} from ${field}`,
  ];
};

const say = (pattern: string, means: Everyday['means']): Everyday => ({
  said: new RegExp(`^${pattern}$`, 'is'),
  means,
});

/**
 * How merchants say steps. Each is tried where a line is none of the sentences; the first of what it may mean that reads is taken. Words
 * of the field, of values and of texts are passed on as they stand.
 */
export const EVERYDAY: readonly Everyday[] = [
  say(`(?:${UP}) (.+?) (?:by|with) \\+?(.+)`, (field, by) => [`raise ${field} by ${by}`]),
  say(`(?:${UP}) (.+?) \\+?(${AMOUNT})`, (field, by) => [`raise ${field} by ${by}`]),
  say(`(?:add|put) \\+?(${AMOUNT}) (?:more )?(?:to|on|onto|on top of) (.+)`, (by, field) => [
    `raise ${field} by ${by}`,
  ]),
  say(`(.+?) \\+ ?(${AMOUNT})`, (field, by) => [`raise ${field} by ${by}`]),
  say(`(?:${DOWN}) (.+?) (?:by|with) [-−]?(.+)`, (field, by) => [`lower ${field} by ${by}`]),
  say(`(?:${DOWN}) (.+?) [-−]?(${AMOUNT})`, (field, by) => [`lower ${field} by ${by}`]),
  say(`(?:take|knock|shave|get|deduct|subtract) (${AMOUNT}) (?:off|from|off of) (.+)`, (by, field) => [
    `lower ${field} by ${by}`,
  ]),
  say(`(${AMOUNT}) (?:off|less on) (.+)`, (by, field) => [`lower ${field} by ${by}`]),
  say(`(.+?) [-−] ?(${AMOUNT})`, (field, by) => [`lower ${field} by ${by}`]),
  say(`(?:set|put|bring) (?:the )?margin (?:of (.+?) )?(?:to|at) (.+)`, (field, share) =>
    forMargin(field || 'price', share, 'margin'),
  ),
  say(`(?:set|put|bring) (?:the )?markup (?:of (.+?) )?(?:to|at) (.+)`, (field, share) =>
    forMargin(field || 'price', share, 'markup'),
  ),
  say(`(?:price|set price|set (.+?)) for (?:a )?margin (?:of )?(.+)`, (field, share) =>
    forMargin(field || 'price', share, 'margin'),
  ),
  say(`double (.+)`, (field) => [`work out ${field} from ${field} times 2 plus 0`]),
  say(`halve (.+)`, (field) => [`work out ${field} from ${field} times 0.5 plus 0`]),
  say(`(?:multiply|times) (.+?) by (.+)`, (field, by) => [`work out ${field} from ${field} times ${by} plus 0`]),
  say(`(?:round|end) (up|down) (.+?) (?:to|at|in|on|with) (.+)`, (way, field, ending) => [
    `round ${field} ${way} to ${ending}`,
  ]),
  say(`(?:round|end) (.+?) (?:to|at|in|on|with) (\\.\\d+)`, (field, ending) => [`round ${field} nearest to ${ending}`]),
  say(`make (.+?) end (?:in|on|with|at) (\\.\\d+)`, (field, ending) => [`round ${field} nearest to ${ending}`]),
  say(`(?:move|shift|postpone|delay|put off) (.+?) (?:by )?(\\d+) (day|week|fortnight)s?`, (field, many, unit) => [
    `move ${field} by ${Number(many) * DAYS[unit.toLowerCase()]!} days`,
  ]),
  say(`(?:bring forward|advance) (.+?) (?:by )?(\\d+) (day|week|fortnight)s?`, (field, many, unit) => [
    `move ${field} by -${Number(many) * DAYS[unit.toLowerCase()]!} days`,
  ]),
  say(`(?:replace|swap|exchange) (.+?) (?:with|by|for) (.+?) in (.+)`, (words, by, field) => [
    `replace ${quoted(words)} by ${quoted(by)} in ${field}`,
  ]),
  say(`(?:in )?(.+?)[:,]? replace (.+?) (?:with|by|for) (.+)`, (field, words, by) => [
    `replace ${quoted(words)} by ${quoted(by)} in ${field}`,
  ]),
  say(`(?:change|turn|correct|rename) (.+?) (?:to|into) (.+?) in (.+)`, (words, by, field) => [
    `replace ${quoted(words)} by ${quoted(by)} in ${field}`,
    `move ${words} to ${by} in ${field}`,
  ]),
  say(
    `(?:make|put|set|write|turn|convert|change) (.+?) (?:to |in |into |all )?(${UPPER}|${LOWER}|${TITLE})`,
    (field, letters) => [toLetters(field, letters)],
  ),
  say(`(.+?) (?:in|to|into|all) (${UPPER}|${LOWER}|${TITLE})`, (field, letters) => [toLetters(field, letters)]),
  say(`(?:capitali[sz]e|uppercase) (.+)`, (field) => [toLetters(field, 'capitals')]),
  say(`lowercase (.+)`, (field) => [toLetters(field, 'small letters')]),
  say(
    `(?:cut|shorten|truncate|trim|limit|crop|keep) (.+?) (?:to|at|after|down to) (?:at most |the first )?(\\d+)(?: ${CHARACTERS})?`,
    (field, most) => [`cut ${field} at ${most} characters`],
  ),
  say(
    `(?:clean up|clean|neaten|trim spaces (?:in|from|of)|remove (?:double|extra) spaces (?:in|from)) (.+)`,
    (field) => [`tidy ${field}`],
  ),
  say(`(?:append|attach|add|put|write) (.+?) (?:to|at|after|behind) (?:the )?(?:end of )(.+)`, (words, field) => [
    `put ${behind(words)} after ${field}`,
  ]),
  say(`(?:append|attach) (.+?) to (.+)`, (words, field) => [`put ${behind(words)} after ${field}`]),
  say(`(?:add|put|write) (.+?) (?:after|behind) (.+)`, (words, field) => [`put ${behind(words)} after ${field}`]),
  say(`(?:prepend|add|put|write) (.+?) (?:to|at) (?:the )?(?:front|start|beginning) of (.+)`, (words, field) => [
    `put ${before(words)} before ${field}`,
  ]),
  say(`(?:add|put|write) (.+?) (?:before|in front of) (.+)`, (words, field) => [
    `put ${before(words)} before ${field}`,
  ]),
  say(`prepend (.+?) to (.+)`, (words, field) => [`put ${before(words)} before ${field}`]),
  say(`(?:begin|start) (.+?) with (.+)`, (field, words) => [`put ${before(words)} before ${field}`]),
  say(`end (.+?) with (.+)`, (field, words) => [`put ${behind(words)} after ${field}`]),
  say(`(?:remove|delete|strip|drop|take out|take|cut|lose|erase) (.+?) (?:from|out of|off) (.+)`, (what, field) =>
    without(what, field),
  ),
  say(`untag (.+)`, (what) => [`take ${what} from tags`]),
  say(`(?:tag|label|mark) (?:it |them |these |all )?(?:as |with )?(.+)`, (what) => [`add ${what} to tags`]),
  say(
    `(?:put|add|file|place) (?:it |them |these |all |everything )?(?:in|into|under|to|to category) (.+)`,
    (category) => [`add ${category} to category`],
  ),
  say(`(?:add|put) (.+?) (?:to|in|into|onto|on) (.+)`, (what, field) => [`add ${what} to ${field}`]),
  say(`(?:empty|blank|wipe|reset|remove|delete|erase|clear out) (.+)`, (field) => [`clear ${field}`]),
  say(`(?:copy|use|take) (.+?) (?:to|as|for|over) (.+)`, (from, field) => [`copy ${from} into ${field}`]),
  say(`(?:retire|discontinue)(?: them| these| all| it)?`, () => ['set stage to Retired']),
  say(`(?:put|set)(?: them| these| all| it)? on sale`, () => ['set stage to On sale']),
  say(`(?:rest|take off sale|pause)(?: them| these| all| it)?`, () => ['set stage to Resting']),
  say(`(?:set|make|change|put|turn|let) (.+?) (?:to|as|=|be|into|equal to|equals) (.+)`, (field, to) => [
    `set ${field} to ${to}`,
  ]),
  say(`(.+?) ?(?:=|:=|becomes|should be|is now|is to be) ?(.+)`, (field, to) => [`set ${field} to ${to}`]),
  say(`(?:set|make|change|put) (.+)`, (both) => divided(both).map(([field, to]) => `set ${field} to ${to}`)),
  say(`add (?:to )?(.+)`, (both) => divided(both).map(([field, what]) => `add ${what} to ${field}`)),
];
