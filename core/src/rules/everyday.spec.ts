import { testAsking } from '../testing/index.ts';
import { exampleOf } from './sentence.ts';
import { type Verb } from './step.ts';
import { STEPS } from './steps/index.ts';
import { draftOfRule, parseRule, parseStep, readRule, ruleSentence, ruleText } from './ruleText.ts';

/** A shop that has a tag, a brand and a category, as examples name some. */
const asking = testAsking({
  tag: { 1: 'Gift', 2: 'Winter' },
  brand: { 1: 'Moss Lane' },
  categories: [{ id: '1', parent: null, name: 'Ink', place: 0 }],
});
const meant = (line: string): string => {
  const read = parseStep(line, asking);
  if (!read.ok) return `not understood: ${read.problem.code}`;
  const rule = readRule({ steps: [read.value], guards: [] }, asking);
  return rule ? ruleSentence(draftOfRule(rule, asking), asking) : 'does not read';
};

/** What merchants say, and what is done (common practice: sentences as they are typed, in no one's order). */
const CORPUS: Readonly<Record<string, readonly string[]>> = {
  'raise regular price by 4 %': [
    'increase price by 4%',
    'increase the price by 4 %',
    'raise price 4%',
    'raise the price 4 percent',
    'up price by 4 per cent',
    'put up price by 4%',
    'mark up price 4%',
    'add 4% to price',
    'add 4 % to the regular price',
    'price + 4%',
    'hike the price by 4%.',
    'please increase price by 4%',
    'bump price 4%',
    'lift the price by 4%',
  ],
  'raise regular price by 0.50': ['increase price by 0.50', 'add 0.50 to price', 'price + 0.50', 'put 0.50 on price'],
  'lower regular price by 10 %': [
    'reduce price by 10%',
    'reduce the price 10 %',
    'decrease price by 10%',
    'drop price by 10 %',
    'cut price by 10%',
    'discount price by 10%',
    'take 10% off price',
    'take 10% off the price',
    'knock 10% off price',
    '10% off price',
    'mark down price 10%',
    'bring down the price by 10%',
    'price - 10%',
    'subtract 10% from price',
  ],
  'raise stock by 5': ['add 5 to stock', 'increase stock by 5', 'stock + 5', 'up stock by 5'],
  'lower stock by 2': ['take 2 off stock', 'reduce stock by 2', 'subtract 2 from stock', 'take 2 from stock'],
  'set stage to Resting': [
    'set stage Resting',
    'stage = Resting',
    'make stage Resting',
    'change stage to Resting',
    'set the stage to Resting',
  ],
  'set stage to Retired': ['retire', 'discontinue them', 'retire these', 'stage should be Retired'],
  'set regular price to 12.00': [
    'set price to 12',
    'price = 12',
    'make price 12',
    'change the price to 12.00',
    'set price 12',
    'price becomes 12',
  ],
  'set packed weight to 450': ['set weight to 450 g', 'weight = 450 g', 'set weight 450 g', 'make the weight 450 g'],
  'clear cost': ['empty cost', 'remove cost', 'delete the cost', 'blank cost', 'reset cost', 'wipe cost'],
  'remove the brand from name': [
    'remove brand from name',
    'strip brand from name',
    'take brand out of name',
    'delete the brand from the name',
    'drop brand from name',
  ],
  'remove "New" from name in any spelling': [
    'remove New from name',
    'delete "New" from name',
    'strip New from the name',
    'take New out of name',
    'remove the word New from name',
  ],
  'replace "a" by "b" in name in any spelling': [
    'replace "a" with "b" in name',
    'replace a with b in name',
    'swap "a" for "b" in name',
    'change "a" to "b" in name',
    'in name replace a with b',
    'in name, replace "a" by "b"',
  ],
  'change name to capitals': [
    'change name to upper case',
    'make name uppercase',
    'put name in capitals',
    'uppercase name',
    'capitalise name',
    'name in capitals',
  ],
  'change name to small letters': [
    'change name to lower case',
    'make the name lowercase',
    'lowercase name',
    'turn name into small letters',
  ],
  'change name to title case': ['make name title case', 'change the name to title case', 'put name into proper case'],
  'cut name at 60 characters': [
    'cut name to 60 characters',
    'shorten name to 60 characters',
    'truncate the name at 60',
    'limit name to 60 chars',
    'trim name to 60 letters',
    'crop name to 60 characters',
  ],
  'tidy name': ['clean up name', 'clean the name', 'trim spaces in name', 'remove double spaces from name'],
  'put " (boxed)" after name': [
    'append (boxed) to name',
    'add (boxed) to the end of name',
    'put (boxed) at the end of name',
    'add (boxed) after name',
    'end name with (boxed)',
  ],
  'put "New: " before name': [
    'prepend New: to name',
    'add New: to the front of name',
    'put New: in front of name',
    'add New: at the beginning of the name',
    'begin name with New:',
    'start name with "New: "',
  ],
  'work out regular price from cost for a margin of 45 %': [
    'set margin to 45 %',
    'set the margin to 45%',
    'set margin of price to 45%',
    'price for a margin of 45%',
  ],
  'work out regular price from cost for a markup of 80 %': ['set markup to 80 %', 'set the markup at 80%'],
  'work out regular price from regular price times 2 plus 0.00': [
    'double price',
    'double the price',
    'multiply price by 2',
  ],
  'round regular price nearest to .99': [
    'round price to .99',
    'make price end in .99',
    'end price in .99',
    'round the price to .99',
  ],
  'add Gift to tags': ['tag as Gift', 'tag with Gift', 'put Gift in tags', 'add tags Gift', 'label them Gift'],
  'take Gift from tags': [
    'remove Gift from tags',
    'untag Gift',
    'delete Gift from tags',
    'take Gift out of tags',
    'drop Gift from tags',
  ],
  'add Ink to category': ['put in Ink', 'file under Ink', 'add to category Ink', 'put everything in Ink'],
  'round regular price up to .95': ['round up price to .95', 'round up the price to .95'],
};

describe('steps in everyday words', () => {
  for (const [sentence, lines] of Object.entries(CORPUS))
    it(`mean: ${sentence}`, () => {
      for (const line of lines) expect(meant(line)).withContext(line).toBe(sentence);
    });

  it('are printed as sentences that are read as the same', () => {
    for (const line of Object.values(CORPUS).flat())
      expect(meant(meant(line)))
        .withContext(line)
        .toBe(meant(line));
  });

  it('have a condition behind “if” and “when” too', () => {
    expect(meant('increase price 4% if cost > 2')).toBe('raise regular price by 4 % where cost > 2.00');
    expect(meant('increase price 4% when cost > 2')).toBe('raise regular price by 4 % where cost > 2.00');
  });

  it('stand one behind the other in a line, divided by “then”', () => {
    const steps = (line: string) => {
      const read = parseRule(line, asking);
      return read.ok ? read.value.steps.map((step) => ruleText({ steps: [step], guards: [] }, asking)) : read.problem;
    };
    const two = ['raise regular price by 4%', 'round regular price nearest to .99'];
    expect(steps('increase price 4% and then round price to .99')).toEqual(two);
    expect(steps('increase price 4%, then round price to .99')).toEqual(two);
    expect(steps('put " and then " after name')).toEqual(['put " and then " after name']);
    expect(steps('set announcement to first this and then that')).toEqual([
      'set announcement to first this and then that',
    ]);
  });

  it('keep the articles of their values, and quotes within what is replaced', () => {
    expect(meant('name = The Quick Ink')).toBe('set name to The Quick Ink');
    expect(meant('replace 5" with 5-inch in name')).toBe('replace "5\\"" by "5-inch" in name in any spelling');
  });

  it('leave what is a sentence as it is, whatever words its texts have', () => {
    expect(meant('put " if in doubt" after name')).toBe('put " if in doubt" after name');
    expect(meant('set announcement to Back when it is here')).toBe('set announcement to Back when it is here');
  });

  it('are offered as examples that read, each about a field that it takes', () => {
    for (const [verb, step] of Object.entries(STEPS)) {
      const example = exampleOf(step, asking);
      const read = parseStep(example, asking);
      expect(read.ok && read.value.do)
        .withContext(example)
        .toBe(verb as Verb);
      expect(meant(example)).withContext(example).not.toContain('not ');
    }
  });

  it('that mean nothing are refused with a sentence that reads', () => {
    for (const line of [
      'hello',
      'price',
      'make it nice',
      'increase price by a lot',
      'remove from name',
      `set ${'very '.repeat(200)}`,
    ]) {
      const read = parseStep(line, asking);
      expect(read.ok).withContext(line).toBeFalse();
      if (!read.ok && read.problem.code === 'step-unreadable')
        expect(parseStep(read.problem.expected, asking).ok).withContext(read.problem.expected).toBeTrue();
    }
  });
});
