import { type Field, isPerThing } from '../kinds/field.ts';
import { type Register } from '../kinds/register.ts';
import { typeOf } from '../values/values.ts';
import { fold } from '../words/fold.ts';
import { comparisonsOf } from './comparisons.ts';
import { quote } from './print.ts';

/** What shopkeepers say of goods, and how it is asked: `$1` and `$2` are what the groups hold, in quotes where they stand in quotes. */
export type Saying = readonly [said: RegExp, asked: string];

const NUMBER = String.raw`[£$€]?(\S*\d\S*)(?: (?:pounds?|quid|euros?|dollars?|gbp|eur|usd)\b)?`;
const COUNT = String.raw`(\d+)`;
const LESS = 'fewer than|less than|under|below';
const MORE = 'more than|over|above';
const ABSENT = 'no|without|with no|missing|lacks|lacking|has no|have no|having no|that have no|with empty|with missing';
const PRESENT = 'with|has|have|having|that have';
const ARTICLE = '(?:an? |any |the |its |their )?';
const GOODS = '(?:everything|anything|all|all goods|goods|products|items|things|skus) ';

const say = (said: string, asked: string): Saying => [new RegExp(String.raw`(?<!\S)(?:${said})(?!\S)`, 'i'), asked];

/** Sayings of every shop; the longer ones of the same words stand first. */
const SAYINGS: readonly Saying[] = [
  say(
    'nothing in stock|none in stock|not in stock|no stock|with no stock|out of stock|sold out|zero stock|without stock',
    'stock is 0',
  ),
  say(`(?:${MORE}) ${COUNT} in stock`, 'stock > $1'),
  say(`(?:${LESS}) ${COUNT} in stock`, 'stock < $1'),
  say(`at least ${COUNT} in stock`, 'stock >= $1'),
  say(`(?:at most|up to) ${COUNT} in stock`, 'stock <= $1'),
  say(`(?:only )?${COUNT} (?:in stock|left)`, 'stock is $1'),
  say('in stock|with stock', 'stock > 0'),
  say('not on sale', 'stage is not "On sale"'),
  say('not (preparing|resting|retired)', 'stage is not $1'),
  say('not discounted|not reduced|not on offer|at full price|full price', 'sale is empty'),
  say('discounted|reduced|on offer|in a sale|in the sale|on promotion|marked down', 'sale is filled'),
  say(`(?:heavier than|weighs (?:${MORE})|weighing (?:${MORE})) ${NUMBER}(?: (?:g|gr|grams?))?`, 'packed weight > $1'),
  say(`(?:lighter than|weighs (?:${LESS})|weighing (?:${LESS})) ${NUMBER}(?: (?:g|gr|grams?))?`, 'packed weight < $1'),
  say(
    `(?:price |priced |costing |costs )?(?:cheaper than|${LESS}) cost|sold at a loss|at a loss|loss making|loss-making|under cost|below cost`,
    'price < cost',
  ),
  say(`(?:price |priced |costing |costs )?(?:cheaper than|${LESS}|up to) ${NUMBER}`, 'price < $1'),
  say(`(?:price |priced |costing |costs )?(?:dearer than|more expensive than|${MORE}) ${NUMBER}`, 'price > $1'),
  say(
    `(?:priced |costing |costs |price )?(?:between|from) ${NUMBER} (?:and |to )?${NUMBER}`,
    'price between $1 and $2',
  ),
  say(`(?:priced|costing|costs|sold) (?:at |for )?${NUMBER}`, 'price is $1'),
  say('(?:prices? |priced )?(?:that )?(?:ends?|ending) with ([.,]\\d+)', 'price ends with $1'),
  say(`names?(?: is| are)? longer than ${COUNT}(?: characters?| letters?)?`, 'length of name > $1'),
  say(`names?(?: is| are)? shorter than ${COUNT}(?: characters?| letters?)?`, 'length of name < $1'),
  say('(?:changed|edited|updated|touched) today', 'last changed in the last 0 days'),
  say('(?:changed|edited|updated|touched) (?:since yesterday|yesterday)', 'last changed in the last 1 days'),
  say('(?:changed|edited|updated|touched) this week', 'last changed in the last 7 days'),
  say('(?:changed|edited|updated|touched) this month', 'last changed in the last 30 days'),
  say('(?:tagged|labelled|with tag|with the tag) (?:as |with )?(\\S+)', 'tags is "$1"'),
  say('(?:called|named) (\\S+)', 'name contains "$1"'),
  say('(?:codes? )?(?:starts|begins|starting|beginning) with (\\S+)', 'code starts with "$1"'),
  say('(?:codes? )?(?:ends|ending) with (\\S+)', 'code ends with "$1"'),
  [/(?:^|\s)([^\s*]+)\*(?=\s|$)/i, ' code starts with "$1"'],
  [/(?:^|\s)\*([^\s*]+)(?=\s|$)/i, ' code ends with "$1"'],
  [/(?:^|\s)\*([^\s*]+)\*(?=\s|$)/i, ' code contains "$1"'],
];

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
const several = (word: string): string => (word.endsWith('y') ? `${word.slice(0, -1)}ies` : `${word}s`);
const oneOrSeveral = (words: string): string => [words, several(words)].map(escaped).join('|');

/** What goods may lack by the gaps of a shop, such as `picture`. */
const gapWords = (register: Register): string[] =>
  (register.find('gap')?.choices ?? []).flatMap(({ name }) =>
    name.startsWith('no ') ? [fold(name).slice('no '.length)] : [],
  );

/** What is said of goods that lack something that the shop counts as a gap: `without a picture`. */
const ofGaps = (register: Register): Saying[] =>
  (register.find('gap')?.choices ?? [])
    .filter(({ name }) => name.startsWith('no '))
    .map(({ name }) =>
      say(
        `(?:${GOODS})?(?:${ABSENT}) ${ARTICLE}(?:${oneOrSeveral(fold(name).slice('no '.length))})`,
        `gap is ${quote(name)}`,
      ),
    );

/** What is said of a field by its name: that it is empty, where that is no gap, or filled. */
function ofField({ name }: Field, called: string, gaps: ReadonlySet<string>): Saying[] {
  return [
    ...(gaps.has(called)
      ? []
      : [say(`(?:${GOODS})?(?:${ABSENT}) ${ARTICLE}(?:${oneOrSeveral(called)})`, `${name} is empty`)]),
    say(`(?:${GOODS})?(?:${PRESENT}) ${ARTICLE}(?:${oneOrSeveral(called)})`, `${name} is filled`),
  ];
}

const SAID = new WeakMap<Register, readonly Saying[]>();

/** All sayings of a shop, of its gaps and of its fields by whatever they are called; made once for a register. */
export function sayingsOf(register: Register): readonly Saying[] {
  let sayings = SAID.get(register);
  if (!sayings) {
    const gaps = new Set(gapWords(register).flatMap((word) => [word, several(word)]));
    const fields = register.called
      .filter(
        ({ field }) => !isPerThing(field) && comparisonsOf(field).includes('is empty') && typeOf(field).usual !== 'in',
      )
      .flatMap(({ field, words }) => ofField(field, words.join(' '), gaps));
    SAID.set(register, (sayings = [...SAYINGS, ...ofGaps(register), ...fields]));
  }
  return sayings;
}
