import {
  type WarningKey,
  type DecidedWarning,
  ENDING_NAMES,
  GOODS_WORDS,
  LIST_WORDS,
  type Problem,
  type ProblemCode,
  type ProblemOf,
  type ProblemPlace,
  STOPS_BY,
} from '@ivory/core';

const LONGEST_SHOWN = 60;
const said = (problem: Problem): string => {
  const value = problem.value ?? '';
  return `“${value.length > LONGEST_SHOWN ? value.slice(0, LONGEST_SHOWN) + '…' : value}”`;
};
const named = ({ called, field = '' }: Problem): string =>
  called ?? (Object.hasOwn(GOODS_WORDS, field) ? GOODS_WORDS[field as keyof typeof GOODS_WORDS].name : 'value');
const meant = (problem: Problem): string =>
  problem.expected === undefined ? '' : ` Did you mean “${problem.expected}”?`;

const WORDS: { readonly [C in ProblemCode]: (problem: ProblemOf<C>) => string } = {
  required: (p) => `The ${named(p)} is empty. It must be filled in.`,
  'money-unreadable': (p) => `${said(p)} is not an amount. Write it like ${p.expected}.`,
  'money-letter-for-digit': (p) => `${said(p)} has a letter where a digit belongs. Is ${p.expected} right?`,
  'money-exponent': (p) => `${said(p)} is written with an exponent. Write all the digits of the amount.`,
  'money-currency': (p) =>
    `${said(p)} is not in ${p.expected}, the shop’s currency. Work out what it is in ${p.expected}, and write that.`,
  'money-negative': (p) => `${said(p)} is below nothing. A price or cost is 0.00 or more.`,
  'money-too-large': (p) => `${said(p)} is larger than any price here. Look for a missing decimal sign.`,
  'money-too-precise': (p) => `${said(p)} has too many decimals. This currency has ${p.expected}.`,
  'percent-unreadable': (p) => `${said(p)} is not a percentage. Write it like ${p.expected}.`,
  'out-of-range': (p) => `${said(p)} cannot be the ${named(p)}. It goes from ${p.expected}.`,
  'count-unreadable': (p) => `${said(p)} is not a number for the ${named(p)}. Write it like ${p.expected}.`,
  'number-unreadable': (p) => `${said(p)} is not a number for the ${named(p)}. Write it like ${p.expected}.`,
  'unit-unknown': (p) => `${said(p)} has another unit than the ${named(p)}. Write it like ${p.expected}.`,
  'time-unreadable': (p) => `${said(p)} is not a time that a clock shows. Write it like ${p.expected}.`,
  'date-unreadable': (p) => `${said(p)} is not a day of the calendar. Write it like ${p.expected}.`,
  'code-too-long': (p) => `The code ${said(p)} is too long. A code has at most ${p.expected} characters.`,
  'code-control-character': (p) => `The code ${said(p)} holds a character that cannot be seen. Type it again.`,
  'gtin-shortened': (p) =>
    `The GTIN ${said(p)} was shortened by a spreadsheet, and its last digits are lost. Make its column a column of text, and fill it again.`,
  'gtin-not-digits': (p) => `The GTIN ${said(p)} holds something other than digits.`,
  'gtin-length': (p) =>
    `The GTIN ${said(p)} has ${p.value.replace(/\D/g, '').length} digits. It should have 8, 12, 13 or 14.`,
  'gtin-check-digit': (p) =>
    `The last digit of the GTIN ${said(p)} does not fit the others. It would be ${p.expected}.`,
  'file-unreadable': (p) => `${said(p)} names no file. Write it like Manual #12, where 12 is its number.`,
  'gtin-prefix': (p) => `${said(p)} cannot begin GTINs. A company’s prefix has 6 to 11 digits, like 5060001.`,
  'template-brace': (p) => `A ${said(p)} of the pattern stands without the other. Write it like {brand} {model}.`,
  'template-field': (p) => `There is no field ${said(p)} for the pattern. Write it like {brand} {model}.`,
  'text-too-long': (p) => `The ${named(p)} ${said(p)} is too long. It has room for ${p.expected} characters.`,
  'text-garbled': (p) =>
    `The ${named(p)} ${said(p)} was saved in a wrong encoding: “${p.expected}” was one letter. Have the file saved as UTF-8.`,
  'choice-unknown': (p) => `${said(p)} is no ${named(p)}. It can be: ${p.expected}.`,
  'reference-unknown': (p) =>
    p.field === 'parts'
      ? `There is no SKU ${said(p)}.${meant(p)}`
      : `There is no ${named(p)} called ${said(p)}.${meant(p)}`,
  'category-unknown': (p) => `There is no category ${said(p)}.${meant(p)}`,
  'category-too-deep': (p) => `The path ${said(p)} is too deep. Categories go ${p.expected} levels down.`,
  'category-empty-step': (p) => `The path ${said(p)} has an empty step. Write it like Ink > Bottled.`,
  'field-unknown': (p) => `There is no field ${said(p)}.${meant(p)} To search for the word, put it in quotes.`,
  'field-read-only': (p) => `The ${named(p)} is worked out from other fields and cannot be set.`,
  'comparison-unknown': (p) => `The ${named(p)} cannot be asked with ${said(p)}. It takes: ${p.expected}.`,
  'value-missing': (p) => `A value is missing behind ${said(p)}${p.expected ? `: write “5 ${p.expected} 10”` : ''}.`,
  'value-is-field': (p) => `${said(p)} is a field. A comparison takes a value, such as ${p.expected}.`,
  'quote-open': (p) => `The quote that begins at ${said(p)} is not closed. Put " at its end.`,
  'parenthesis-open': () => `This parenthesis is not closed. Put ) at its end.`,
  'parenthesis-stray': (p) => `${said(p)} stands alone here. Take it out, or open a parenthesis before it.`,
  'condition-missing': (p) => `A condition is missing at ${said(p)}, such as: brand is empty.`,
  'question-too-long': (p) =>
    `A question has at most ${p.expected} conditions, and there are more from ${said(p)} on. Ask for several values at once, such as: code is A-1, A-2.`,
  'question-too-deep': (p) =>
    `The groups of a question go ${p.expected} deep, and ${said(p)} begins one that is deeper. Take out parentheses.`,
  'row-too-long': (p) =>
    `The row has ${p.value} cells below ${p.expected} headings. Is a comma in it a decimal sign, or part of a text? Put that cell in quotes.`,
  'text-unseen': (p) =>
    `The ${named(p)} ${said(p)} holds a character that cannot be seen (${p.expected}). Take it out, or type the text again.`,
  'nothing-to-change': (p) => `The ${named(p)} is empty, so ${said(p)} has nothing to change. Write the value itself.`,
  'factor-unreadable': (p) => `${said(p)} is no factor. Write it like *1.1, or as a percentage like +10 %.`,
  lacking: (p) =>
    `The code is not in the shop, so the row would make a new SKU, and for that the file has no ${named(p)}. Match a column to it.`,
  'duplicate-in-file': (p) =>
    `The code ${said(p)} stands in the file before, in row ${p.expected}. Each code may stand once.`,
  'differs-in-file': (p) =>
    `The ${named(p)} ${said(p)} is not that of row ${p.expected}, which is of the same product. A product has one.`,
  'differs-in-hand': (p) =>
    `The ${named(p)} ${said(p)} is not that of the product of this name, which is proposed: ${p.expected === '' ? 'it has none' : `“${p.expected}”`}. A product has one; give the row another name, or the same.`,
  'differs-in-paste': (p) =>
    `The ${named(p)} is one for all SKUs of the product, and its rows say both ${saidOrNothing(p.value)} and ${saidOrNothing(p.expected)}. Write the same in each, or paste by product.`,
  'not-in-shop': (p) => `The shop has no ${named(p)} ${said(p)}, and the import was not told to make new ones.`,
  'name-in-use': (p) => `The name ${said(p)} is in use. Give another, or merge the two.`,
  'name-with-bar': (p) =>
    `The name ${said(p)} has a bar in it, which divides several values. Write it without, such as “${p.expected}”.`,
  'several-in-one': (p) =>
    `${said(p)} are several values, and the ${named(p)} is one. Write one, such as “${p.expected}”; in a file, give each a row of its own.`,
  'name-is-field': (p) =>
    `${said(p)} is read as the ${p.expected} already, in questions and in the headings of files, which could not tell them apart. Give another name.`,
  'name-is-condition': (p) =>
    `${said(p)} would be read as a condition or a number, and not as a name. Give another name, such as one that begins with the goods that have it.`,
  'slug-unreadable': (p) =>
    `${said(p)} cannot stand in an address. Write it in small letters, digits and single hyphens, such as “${p.expected}”.`,
  'web-address-unreadable': (p) => `${said(p)} is no address on the web. Write it like ${p.expected}.`,
  'country-unknown': (p) =>
    `${said(p)} is no country. Write its English name, or its code of two letters, such as ${p.expected}.`,
  'customs-code-unreadable': (p) => `${said(p)} is no customs code. It has 6, 8 or 10 digits, such as ${p.expected}.`,
  'currency-unknown': (p) => `${said(p)} is no currency. Write its code of three letters, such as ${p.expected}.`,
  'time-zone-unknown': (p) => `${said(p)} is no time zone. Write it like ${p.expected}.`,
  'content-unreadable': (p) => `${said(p)} is no content. Write it with its unit, such as ${p.expected}.`,
  'swatch-unreadable': (p) => `${said(p)} is no colour. Write it as six hexadecimal digits, such as ${p.expected}.`,
  'rule-leads-to-itself': (p) =>
    `The rule asks for the assortment ${said(p)}, whose own rule leads back to this one. Take that out of the rule.`,
  'list-too-long': (p) =>
    `The ${named(p)} has more than ${p.expected} entries, beginning with ${said(p)}. Take some out.`,
  'day-twice': (p) => `${said(p)} begins on the day of another. Each day may stand once.`,
  'fit-unreadable': (p) => `${said(p)} is no device with its years. Write it like ${p.expected}.`,
  'markup-empty': (p) =>
    `Nothing of the ${named(p)} is left once scripts, styles and what is loaded from elsewhere are taken out: ${said(p)}.`,
  'variant-twice': (p) =>
    p.value
      ? `There is a variant ${said(p)} already. Each combination stands once.`
      : 'There is a variant without options already. Give the new one an option, such as a colour.',
  'picture-unreadable': (p) => `${said(p)} is no picture. Pictures are named by their numbers, such as ${p.expected}.`,
  'follows-others': (p) => `The ${named(p)} follows from “${p.expected}”. Change that instead, or empty it.`,
  'set-in-set': (p) =>
    `${said(p)} cannot be a part here: a set has no parts that are sets, and nothing is a part of itself.`,
  'amount-signed': (p) => `The verb says the direction already. Write ${p.expected}, without a sign.`,
  'pattern-unreadable': (p) => `The pattern ${said(p)} cannot be read: ${p.expected}.`,
  'step-unreadable': (p) => `${said(p)} is nothing that a rule can do. Write it like: ${p.expected}`,
  'step-field': (p) => `The ${p.value} does not take this. Choose another field, or another verb.`,
  'slot-empty': (p) => `Something is missing here. Write it like: ${p.expected}`,
  'slot-field': (p) => `There is no field ${said(p)} that fits here.${meant(p)}`,
  'slot-gone': (p) =>
    `What the rule says of the ${named(p)} is not in the shop any more, or never was. Choose it again.`,
  'where-gone': () => 'The condition of a step asks for what is not in the shop any more. Write it anew.',
  'field-unlike': (p) =>
    `${said(p)} cannot be compared with the ${p.expected} in this way: only numbers of the same kind can, such as two prices, by =, <, ≤, > or ≥.`,
  'factor-field-missing': (p) =>
    `Which field, so many times? Name it behind ${said(p)}: ${p.expected} > 0.6 times cost.`,
  'days-missing': (p) => `${said(p)} of what? Write ${p.expected}.`,
  'where-list': () =>
    'The condition of a step cannot ask for a list. Ask for the list in the question line, as the rows of the rule.',
  'table-twice': (p) => `${said(p)} stands in row ${p.expected} already. Each value may stand once.`,
  'table-cells': (p) => `${said(p)} is one cell. A row has two, with a tab between them: a value, and what it becomes.`,
  'reduction-unreadable': (p) =>
    `What the sale takes off cannot be read from ${said(p)}. Write it like: ${p.expected}, or 3.00 less. Endings are ${ENDING_NAMES.join(', ')}.`,
  'formula-unreadable': (p) =>
    `What becomes of prices cannot be read from ${said(p)}. Write it like: ${p.expected}. Endings are ${ENDING_NAMES.join(', ')}.`,
  'formula-bands': (p) =>
    `${said(p)} is never reached. Write bands from the lowest price up, and what is for all others last, as “below 10.00: 20 % more; else 5 % more”.`,
  'destination-unknown': (p) =>
    `${said(p)} is no country, no group of countries of the shop, and not the “${p.expected}”. Make the group first, on the page of lists.`,
  'shipping-unreadable': (p) => `What shipping costs cannot be read from ${said(p)}. Write it like: ${p.expected}`,
  'rate-twice': (p) => `${said(p)} is for a destination and a weight that stand already. Each may stand once.`,
  'warning-stops': (p) =>
    p.value === GONE
      ? `${p.expected} ${p.expected === '1' ? 'line names or changes' : 'lines name or change'} what is gone. Name something else there, or leave ${p.expected === '1' ? 'it' : 'them'} out.`
      : ASKED[p.value] !== undefined
        ? `${p.expected} ${p.expected === '1' ? 'line waits' : 'lines wait'} until you agree: ${ASKED[p.value]}. Look at ${p.expected === '1' ? 'it' : 'them'} in the proof, and agree or leave ${p.expected === '1' ? 'it' : 'them'} out.`
        : `${p.expected} ${p.expected === '1' ? 'line stops' : 'lines stop'} the landing: ${warningWords(p)}. What stops one is said on the page of the shop.`,
  'deleted-in-hand': (p) =>
    `The ${p.expected} ${said(p)} is deleted in the proof in hand. Name another, or take the deletion out of the proof first.`,
  'thing-gone': (p) => `The ${p.expected} ${said(p)} is gone. Name another, or leave it out.`,
  'code-in-use': (p) => `The code ${said(p)} belongs to another SKU.`,
};

/** A text of a row, which may be empty. */
const saidOrNothing = (text = ''): string => (text === '' ? 'nothing' : `“${text}”`);

/** The warning of lines that name or change what is gone. */
const GONE: WarningKey = 'thing gone';

/** What is landed only once a person agreed to it. */
const ASKED: Readonly<Record<string, string>> = {
  'price of nothing': 'a price of nothing',
  'limit gone': 'what was for some, or told another price, would be for everybody',
};

/** A thing to look at, as the page of the shop calls what stops a landing. */
const warningWords = ({ value = '' }: Problem): string =>
  Object.hasOwn(STOPS_BY, value) ? LIST_WORDS[STOPS_BY[value as DecidedWarning]] : value;

/** What a problem is, in words: which value, and what would be right. */
export function problemWords(problem: Problem): string {
  const say = WORDS[problem.code] as (problem: Problem) => string;
  return (problem.row === undefined ? '' : `${problem.row}: `) + say(problem);
}

/** A problem as it comes over the wire, from a server that may know other codes. */
type WireProblem = ProblemPlace & { readonly code: string; readonly value?: string; readonly expected?: string };

const isProblemCode = (code: string): code is ProblemCode => Object.hasOwn(WORDS, code);

/** The words of a problem that came over the wire; its code when this side does not know it. */
export function wireProblemWords(problem: WireProblem): string {
  return isProblemCode(problem.code) ? problemWords(problem as Problem) : problem.code;
}
