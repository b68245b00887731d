import fc from 'fast-check';
import { type Asking } from '../kinds/asking.ts';
import { typeOf } from '../values/values.ts';
import { type Row } from '../question/row.ts';
import { ruleOf } from '../testing/ruleOn.ts';
import { testAsking } from '../testing/testAsking.ts';
import { GUARD_DOES, GUARD_KEYS } from './guard.ts';
import { GUARDS } from './guards/index.ts';
import {
  draftOfRule,
  parseRule,
  parseStep,
  readRule,
  readStep,
  type RuleDraft,
  ruleSentence,
  ruleText,
} from './ruleText.ts';
import { type Sentence } from './sentence.ts';
import { RunningRule } from './runRule.ts';
import { type Step, VERBS } from './step.ts';
import { STEPS } from './steps/index.ts';

const asking = testAsking({
  brand: { '1': 'Larkspur', '2': 'Where & Co to go' },
  supplier: { '1': 'Tallow, else trim' },
  tag: { '1': 'Gift', '2': 'Back to school', '3': 'by the way' },
  categories: [{ id: '1', name: 'Ink from here', parent: null, place: 1 }],
  choices: { '4': { '1': 'in name where', '2': 'piston' }, '5': { '1': 'a to b' } },
});

/** Texts that a slot takes, with words in them that sentences are made of. */
function textsFor(of: Sentence, name: string, key: string, { register }: Asking): fc.Arbitrary<string> {
  const slot = of.slots[name]!;
  const field = register.find(key)!;
  if (slot.written === 'field') return fc.constantFrom('none', ...slot.offered!(field, asking));
  if (name === 'template') return fc.constantFrom('{brand} {name}', '{name|"no name"} by "hand"');
  if (name === 'pattern') return fc.constantFrom('(\\d+) ml', 'a "b" to c', '[a-z]+$');
  if (slot.written === 'quoted')
    return fc.constantFrom(' to ', 'a "quoted" word', 'back\\slash', 'by x in name where y', 'Pen');
  const offered = slot.offered?.(field, asking) ?? [];
  if (offered.length > 0) return fc.constantFrom(...offered);
  if (slot.initial !== undefined && name !== 'plus') return fc.constant(slot.initial);
  if (name === 'by') return fc.constantFrom('4 %', '12', '7.5 %');
  if (name === 'days' || name === 'most') return fc.constantFrom('7', '30');
  if (typeOf(field).isNumber || ['factor', 'margin', 'markup', 'plus'].includes(name))
    return fc.constantFrom('3', '12');
  if (field.type === 'date') return fc.constant('2026-11-28');
  return fc.constantFrom('from x to y', 'a, else stop', 'say "where" now', 'where', 'in name');
}

const said = (of: Sentence): fc.Arbitrary<{ field: never; texts: Record<string, string> }> => {
  const fields = asking.register.goods.filter(
    (field) => of.takes(field) && field.type !== 'products' && field.type !== 'pictures',
  );
  return fc.constantFrom(...fields).chain(({ key }) => {
    const texts = Object.fromEntries(Object.keys(of.slots).map((name) => [name, textsFor(of, name, key, asking)]));
    return fc.record({
      field: fc.constant(key as never),
      texts: fc.record(texts),
    });
  });
};

/** Tables with what sentences are made of in them, for verbs whose slots all of their fields take alike. */
const TABLES = {
  raise: { slot: 'by', by: 'brand', text: 'Larkspur\t4 %\nWhere & Co to go → 5 %', bands: false },
  lower: { slot: 'by', by: 'price', text: '0\t1 %\n50 → 2 %', bands: true },
  'put after': { slot: 'words', by: 'supplier', text: 'Tallow, else trim\t; where {x} "y" \\', bands: false },
  round: { slot: 'ending', by: 'price', text: '0\t.99\n50\t.95', bands: true },
} as const;

const step = fc.constantFrom(...VERBS).chain((verb) =>
  fc
    .tuple(
      said(STEPS[verb]),
      fc.constantFrom('', 'brand is Larkspur', 'name contains "x where y"'),
      fc.boolean(),
      fc.constantFrom(undefined, TABLES),
    )
    .map(([rest, where, isEvery, table]) => ({
      do: verb,
      ...rest,
      where,
      ...(table && verb in table && { table: table[verb as 'raise'] }),
      ...(isEvery && where !== '' && { whereEvery: true as const }),
    })),
);
const guard = fc
  .constantFrom(...GUARD_KEYS)
  .chain((key) =>
    fc
      .tuple(said(GUARDS[key]), fc.constantFrom(...GUARD_DOES.filter((does) => does !== 'trim' || GUARDS[key].trims)))
      .map(([rest, does]) => ({ guard: key, ...rest, does })),
  );

describe('a rule as text', () => {
  it('reads back as it was printed, for every verb, guard and field', () => {
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 3 }),
        fc.array(guard, { maxLength: 2 }),
        (steps, guards) => {
          const draft: RuleDraft = { steps, guards };
          const rule = readRule(draft, asking);
          if (!rule) return;
          const text = ruleText(draft, asking);
          const read = parseRule(text, asking);
          if (!read.ok) throw new Error(`${text}: ${JSON.stringify(read.problem)}`);
          expect(readRule(read.value, asking)).withContext(text).toEqual(rule);
          const again = draftOfRule(rule, asking);
          expect(readRule(again, asking))
            .withContext(`${ruleText(again, asking)}, shown`)
            .toEqual(rule);
        },
      ),
    );
  });

  it('reads as sentences', () => {
    const rule = ruleOf(
      'Raise regular price BY 4 per cent where brand is Larkspur\nthen round regular price up to .95\nwithin regular price at least 5',
      asking,
    );
    const draft = draftOfRule(rule, asking);
    expect(ruleText(draft, asking).split('\n')).toEqual([
      'raise regular price by 4 % where brand is Larkspur',
      'round regular price up to .95',
      'within regular price at least 5.00, else stop',
    ]);
    expect(ruleSentence(draft, asking)).toBe(
      'raise regular price by 4 % where brand is Larkspur, then round regular price up to .95',
    );
  });

  it('has its tables', () => {
    const text = [
      'raise regular price by {brand: Larkspur → 4 %; "Where & Co to go" → 5 %} where brand is filled',
      'round regular price up to {regular price from: 0 → .99; 50 → .95}',
    ].join('\n');
    const read = parseRule(text.replaceAll('"', ''), asking);
    expect(read.ok && read.value.steps.map(({ table, where }) => [table, where])).toEqual([
      [{ slot: 'by', by: 'brand', text: 'Larkspur → 4 %\nWhere & Co to go → 5 %', bands: false }, 'brand is filled'],
      [{ slot: 'ending', by: 'price', text: '0 → .99\n50 → .95', bands: true }, ''],
    ]);
    const wrong = [
      'raise regular price by {brend: Larkspur → 4 %}',
      'set name to x\nwithin regular price at least {brand: x → 5}',
    ];
    expect(wrong.map((one) => parseRule(one, asking))).toEqual([
      jasmine.objectContaining({ ok: false, problem: jasmine.objectContaining({ code: 'slot-field', row: '1' }) }),
      jasmine.objectContaining({ ok: false, problem: jasmine.objectContaining({ code: 'step-field', row: '2' }) }),
    ]);
  });

  it('says what is wrong, of which line, and what would be right', () => {
    const problem = (text: string) => {
      const read = parseRule(text, asking);
      return read.ok ? undefined : [read.problem.code, read.problem.row, read.problem.expected];
    };
    expect(problem('raise regular price by 4 %\nmake it nice')).toEqual([
      'step-unreadable',
      '2',
      'set regular price to 12.50',
    ]);
    expect(problem('raise the price')).toEqual(['step-unreadable', '1', 'raise regular price by 4 %']);
    expect(problem('set MPN to a\nwithin MPN only if empty, else trim')).toEqual(['choice-unknown', '2', 'stop, tell']);
    const wrong = (line: string) => {
      const read = parseStep(line, asking);
      return read.ok
        ? Object.entries(readStep(read.value, asking).problems).map(([slot, { code }]) => `${slot} ${code}`)
        : [read.problem.code];
    };
    expect(wrong('raise regular price by -4 %')).toEqual(['by amount-signed']);
    expect(wrong('raise regular price by much')).toEqual(['by money-unreadable']);
    expect(wrong('work out regular price from cost for a margin of 100 %')).toEqual(['margin out-of-range']);
    expect(wrong('work out regular price from cost times x')).toEqual(['factor factor-unreadable']);
    expect(wrong('set brand to Larkspor')).toEqual(['value reference-unknown']);
    expect(wrong('write name from "{nothing}"')).toEqual(['template template-field']);
    expect(wrong('replace pattern "a(" by "" in name')).toEqual(['pattern pattern-unreadable']);
    expect(wrong('raise regular price by 1 where regular price >')).toEqual(['where value-missing']);
    expect(wrong('raise name by 1')).toEqual(['step-unreadable']);
  });
});

/** What a step makes of a row. */
function outcomeOf(read: Step, row: Row): string | null {
  const running = new RunningRule({ steps: [read], guards: [] }, asking);
  const { outcome } = running.run('1', [{ id: '1', row: { ...row } }]).skus[0]!;
  return outcome.kind === 'changes' ? outcome.changes[0]!.after : outcome.kind;
}

describe('an amount or a share', () => {
  it('is never taken for the other', () => {
    const by = (text: string) => {
      const { value, problems } = readStep({ do: 'raise', field: 'price', texts: { by: text }, where: '' }, asking);
      return value?.slots['by'] ?? problems['by']!.code;
    };
    expect(by('20')).toBe('2000');
    for (const text of ['20 %', '20%', '20 per cent', '20 percent']) expect(by(text)).withContext(text).toBe('200000%');
    expect(by('20p%')).toBe('percent-unreadable');
  });
});

describe('a table of a step', () => {
  const withTable = (slot: string, by: string, text: string, bands = false) => ({
    do: 'raise' as const,
    field: 'price' as const,
    texts: {},
    where: '',
    table: { slot, by: by as never, text, bands },
  });

  it('gives each row what stands for its value; what is not in it stays', () => {
    const { value: read } = readStep(withTable('by', 'brand', 'Larkspur\t10 %\nWhere & Co to go\t1.00'), asking);
    const draft = draftOfRule({ steps: [read!], guards: [] }, asking);
    expect(readRule(draft, asking)!.steps).toEqual([read!]);
    const on = (row: Row) => outcomeOf(read!, row);
    expect(on({ price: '1000', brand: '1' })).toBe('1100');
    expect(on({ price: '1000', brand: '2' })).toBe('1100');
    expect(on({ price: '2000', brand: '2' })).toBe('2100');
    expect(on({ price: '1000', brand: null })).toBe('stays');
  });

  it('may be of bands, which hold from their value up to the next', () => {
    const { value: read } = readStep(withTable('by', 'price', '0 → 1.00\n10 → 2.00', true), asking);
    expect(outcomeOf(read!, { price: '999' })).toBe('1099');
    expect(outcomeOf(read!, { price: '1000' })).toBe('1200');
  });

  it('leaves out rows that do not read and tells each with its line', () => {
    const read = (text: string) => {
      const { value, table } = readStep(withTable('by', 'brand', text), asking);
      return {
        rows: value?.table?.rows.map(([brand]) => brand),
        lines: table!.lines,
        problems: table!.problems.map(({ code, row }) => [code, row]),
      };
    };
    expect(read('Larkspur\t10 %\n\nNobody\t5 %\nWhere & Co to go\t1.00')).toEqual({
      rows: ['1', '2'],
      lines: [1, 4],
      problems: [['reference-unknown', '3']],
    });
    // Which of two rows of one value is meant, nobody can tell: neither holds.
    expect(read('Larkspur\t10 %\nlarkspur\t5 %\nWhere & Co to go\t1.00')).toEqual({
      rows: ['2'],
      lines: [3],
      problems: [['table-twice', '2']],
    });
    expect(read('Larkspur\tmuch').problems).toEqual([['money-unreadable', '1']]);
    expect(read('Larkspur').problems).toEqual([['table-cells', '1']]);
  });

  it('knows which of its rows met nothing', () => {
    const { value: step } = readStep(withTable('by', 'code', 'A-1\t1\nb-2\t2\nC-3\t3'), asking);
    const running = new RunningRule({ steps: [step!], guards: [] }, asking);
    running.run('1', [{ id: '1', row: { code: 'B-2', price: '100' } }]);
    expect(running.unmet().map(({ step: at, by, rows }) => [at, by.key, rows])).toEqual([
      [
        0,
        'code',
        [
          { row: 0, value: 'a-1' },
          { row: 2, value: 'c-3' },
        ],
      ],
    ]);
  });

  it('is refused as a whole where no row is left', () => {
    const problem = (text: string, by = 'brand') => {
      const { problems } = readStep(withTable('by', by, text), asking);
      return [problems['table']?.code, problems['table']?.row];
    };
    expect(problem('Nobody\t5 %')).toEqual(['reference-unknown', '1']);
    expect(problem('')).toEqual(['slot-empty', undefined]);
    expect(problem(Array.from({ length: 20_001 }, (_, i) => `C-${i}\t1`).join('\n'), 'code')[0]).toBe('list-too-long');
  });
});
