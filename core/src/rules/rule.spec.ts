import fc from 'fast-check';
import { grossMargin } from '../money/margin.ts';
import { money } from '../money/money.ts';
import { changeInPercent } from '../money/percent.ts';
import { MARGIN_EDGES, PRICE_EDGES } from '../money/spread.ts';
import { type Row } from '../question/row.ts';
import { ruleOf, ruleOn } from '../testing/ruleOn.ts';
import { testAsking } from '../testing/testAsking.ts';
import { type EffectCount, isCounted, RuleEffect } from './ruleEffect.ts';
import { problemsOfRule } from './rule.ts';
import { RunningRule } from './runRule.ts';
import { FAILURES } from './step.ts';

const asking = testAsking({ brand: { '1': 'Larkspur', '2': 'Rowan' }, tag: { '1': 'Gift' } });
const priced = (price: number | null, cost: number | null = null, taxRate = 2000): Row => ({
  price: price === null ? null : String(price),
  cost: cost === null ? null : String(cost),
  taxRate: String(taxRate),
});
const on = (text: string, row: Row) => ruleOn(text, row, asking);
/** What comes out: the value, the place of the guard that stops it, or the kind of outcome. */
const after = (text: string, row: Row) => {
  const outcome = on(text, row);
  if (outcome.kind === 'changes') return outcome.changes.map((change) => change.after).join();
  return outcome.kind === 'stopped' ? `stopped ${outcome.by}${outcome.isUnknown ? ' unknown' : ''}` : outcome.kind;
};

describe('guards', () => {
  it('keep a floor margin: 12.00 with VAT and cost 7.50 is 25 %', () => {
    const lower = (by: string) => `lower regular price by ${by}\nwithin margin of regular price at least 25 %`;
    expect(after(lower('0.50'), priced(1250, 750))).toBe('1200');
    expect(after(lower('0.51'), priced(1250, 750))).toBe('stopped 0');
    expect(after(lower('0.50'), priced(1250))).toBe('stopped 0 unknown');
    expect(after(`${lower('0.51')}, else trim`, priced(1250, 750))).toBe('1200');
    expect(on(`${lower('0.51')}, only tell`, priced(1250, 750))).toEqual(
      jasmine.objectContaining({ changes: [jasmine.objectContaining({ after: '1199', told: [0] })] }),
    );
  });

  it('do not stop a raise that stays below the floor, unless asked for', () => {
    const raise = 'raise regular price by 1 %\nwithin margin of regular price at least 25 %';
    expect(after(raise, priced(1000, 900))).toBe('1010');
    expect(after(`${raise} even when raised`, priced(1000, 900))).toBe('stopped 0');
  });

  it('keep the largest change, in both directions', () => {
    const by = (verb: string, amount: string) =>
      `${verb} regular price by ${amount}\nwithin regular price changes by at most 30 %`;
    expect(after(by('lower', '3'), priced(1000))).toBe('700');
    expect(after(by('lower', '3.01'), priced(1000))).toBe('stopped 0');
    expect(after(by('raise', '31 %'), priced(1000))).toBe('stopped 0');
    expect(after(`${by('raise', '31 %')}, else trim`, priced(1000))).toBe('1300');
    expect(after('raise regular price by 2\nwithin regular price changes by at most 1.50', priced(1000))).toBe(
      'stopped 0',
    );
  });

  it('keep amounts above and below limits and other fields', () => {
    expect(after('lower regular price by 5\nwithin regular price at least 6', priced(1000))).toBe('stopped 0');
    expect(after('lower regular price by 5\nwithin regular price at least 6, else trim', priced(1000))).toBe('600');
    expect(after('raise regular price by 5\nwithin regular price at most 12', priced(1000))).toBe('stopped 0');
    expect(after('lower regular price by 5\nwithin regular price never below cost, else trim', priced(1000, 700))).toBe(
      '700',
    );
    expect(after('raise cost by 5\nwithin cost never above regular price', priced(1000, 700))).toBe('stopped 0');
    expect(after('raise cost by 5\nwithin cost never above regular price', priced(null, 700))).toBe(
      'stopped 0 unknown',
    );
  });

  it('leave what is filled, and what would be used twice', () => {
    expect(after('set MPN to X-1\nwithin MPN only if empty', { mpn: 'Y' })).toBe('stopped 0');
    expect(after('set MPN to X-1\nwithin MPN only if empty', { mpn: null })).toBe('X-1');
    const inUse = { isTaken: (_: unknown, value: string) => value === 'X-1', follows: () => false };
    expect(ruleOn('set MPN to X-1\nwithin MPN not used twice', { mpn: null }, asking, inUse).kind).toBe('stopped');
    expect(ruleOn('set MPN to X-2\nwithin MPN not used twice', { mpn: null }, asking, inUse).kind).toBe('changes');
  });

  it('look at a limit once more that one of them takes a value to', () => {
    const both = 'lower regular price by 5\nwithin regular price at most 6\nwithin regular price at least 7, else trim';
    expect(after(both, priced(1000))).toBe('stopped 0');
    const wide = 'lower regular price by 5\nwithin regular price at most 8\nwithin regular price at least 7, else trim';
    expect(after(wide, priced(1000))).toBe('700');
  });

  it('let nothing pass that breaks them, whatever the rule', () => {
    const amounts = fc.integer({ min: 1, max: 1_000_000 });
    fc.assert(
      fc.property(
        amounts,
        amounts,
        fc.integer({ min: -90, max: 200 }).filter((by) => by !== 0),
        fc.constantFrom('.99', '.95', null),
        (price, cost, by, ending) => {
          const text = [
            by < 0 ? `lower regular price by ${-by} %` : `raise regular price by ${by} %`,
            ...(ending === null ? [] : [`round regular price to ${ending}`]),
            'within margin of regular price at least 10 %',
            'within regular price changes by at most 50 %',
          ].join('\n');
          const outcome = on(text, priced(price, cost));
          if (outcome.kind !== 'changes') return;
          const made = BigInt(outcome.changes[0]!.after!);
          const margin = grossMargin(money(made), money(BigInt(cost)), 2000)!;
          expect(margin >= 1000 || made > BigInt(price)).toBeTrue();
          const moved = changeInPercent(money(BigInt(price)), money(made))!;
          expect(moved <= 500_000n && moved >= -500_000n).toBeTrue();
        },
      ),
    );
  });
});

describe('a rule', () => {
  it('takes its steps in order, on whatever fields', () => {
    expect(after('raise regular price by 10 %\nround regular price to .99', priced(1200))).toBe('1299');
    expect(after('round regular price to .99\nraise regular price by 10 %', priced(1200))).toBe('1319');
    expect(after('set weight to 100\nset MPN to A', { weight: null, mpn: null })).toBe('100,A');
  });

  it('runs on the SKUs of a product together: what they agree in is the product’s', () => {
    const running = new RunningRule(
      ruleOf('write name from "{brand} {MPN|code}"\nset cost to 1 where name contains Larkspur', asking),
      asking,
    );
    const row = (id: string, mpn: string) => ({ id, row: { name: 'x', brand: '1', mpn, code: `C-${id}`, cost: null } });
    const alike = running.run('7', [row('1', 'M'), row('2', 'M')]);
    expect(alike.product!.outcome).toEqual(jasmine.objectContaining({ kind: 'changes' }));
    expect(alike.product!.row.name).toBe('Larkspur M');
    expect(alike.skus.map(({ outcome }) => outcome.kind)).toEqual(['changes', 'changes']);
    const different = running.run('8', [row('3', 'M'), row('4', 'N')]);
    expect(different.product!.row.name).toBe('Larkspur');
  });

  it('does a step on a product where any of its SKUs answers, or every one', () => {
    const skus = ['0', '5'].map((stock, i) => ({ id: String(i), stock, row: { stage: 'On sale', stock } }));
    const stageAfter = (text: string, of = skus) =>
      new RunningRule(ruleOf(text, asking), asking).run(
        '1',
        of.map(({ id, row }) => ({ id, row: { ...row } })),
      ).product!.row.stage;
    expect(stageAfter('set stage to Resting where stock is 0')).toBe('Resting');
    expect(stageAfter('set stage to Resting where every SKU: stock is 0')).toBe('On sale');
    expect(stageAfter('set stage to Resting where every SKU: stock is 0', skus.slice(0, 1))).toBe('Resting');
  });

  it('writes nothing that follows from others', () => {
    const beside = { isTaken: () => false, follows: ({ key }: { readonly key: string }) => key === 'price' };
    const outcome = (text: string) => ruleOn(text, priced(1000, 500), asking, beside);
    expect(outcome('raise regular price by 1')).toEqual(
      jasmine.objectContaining({ kind: 'failed', why: 'follows others' }),
    );
    expect(outcome('raise cost by 1').kind).toBe('changes');
  });

  it('says what is wrong with it when it comes from elsewhere', () => {
    const sound = ruleOf('add Gift to tags where brand is Rowan\nwithin regular price at least 5', asking);
    expect(problemsOfRule(sound, asking)).toEqual([]);
    expect(problemsOfRule(sound, testAsking()).map(({ code }) => code)).toEqual(['slot-gone', 'where-gone']);
    const step = { do: 'raise' as const, field: 'name' as const, slots: { by: '100' } };
    expect(problemsOfRule({ steps: [step], guards: [] }, asking)[0]!.code).toBe('step-field');
    const gone = { ...step, field: 'own:99' as const };
    expect(problemsOfRule({ steps: [gone], guards: [] }, asking)[0]!.code).toBe('slot-field');
    const senseless = { ...step, field: 'price' as const, slots: { by: 'abc' } };
    expect(problemsOfRule({ steps: [senseless], guards: [] }, asking)[0]!.code).toBe('slot-gone');
    const table = (by: string, rows: [string, string][], bands = false) =>
      problemsOfRule(
        { steps: [{ ...senseless, slots: {}, table: { slot: 'by', by: by as never, rows, bands } }], guards: [] },
        asking,
      ).map(({ code, row }) => [code, row]);
    expect(
      table('brand', [
        ['1', '100'],
        ['2', 'abc'],
      ]),
    ).toEqual([['slot-gone', '2']]);
    expect(table('price', [['x', '100']], true)).toEqual([['step-field', undefined]]);
    expect(table('own:99', [['1', '100']])).toEqual([['slot-field', undefined]]);
  });
});

/** The effect of a rule on SKUs, each of its own product. */
function effectOn(text: string, rows: readonly Row[]) {
  const rule = ruleOf(text, asking);
  const running = new RunningRule(rule, asking);
  const effect = new RuleEffect(rule, asking);
  const seen = rows.map((row, i) => {
    const { product, skus } = running.run(String(i), [{ id: String(i), row: { ...row } }]);
    const kind = product ? ('product' as const) : ('sku' as const);
    const { outcome, row: left } = product ?? skus[0]!;
    effect.add(kind, String(i), outcome, left);
    return { kind, outcome, row: left };
  });
  const opened = (count: EffectCount) =>
    seen.filter(({ kind, outcome, row }) => isCounted(count, rule, kind, outcome, row, asking)).length;
  return { effect, opened };
}

describe('the effect of a rule on a whole set', () => {
  it('counts what changes, what stays, what fails and what each guard stops', () => {
    const { effect } = effectOn('lower regular price by 1\nwithin margin of regular price at least 25 %', [
      priced(1000, 100),
      priced(50, 10),
      priced(1000, 900),
      priced(null, 100),
      priced(1000),
    ]);
    expect(effect.sku).toEqual({ changes: 1, stays: 0, stopped: 2, failed: 2 });
    expect(effect.guards).toEqual([{ stopped: 1, unknown: 1, trimmed: 0, told: 0, below: 0 }]);
    expect(effect.failures).toEqual(jasmine.objectContaining({ 'nothing there': 1, 'below nothing': 1 }));
  });

  it('counts what a guard takes to its limit, also where the limit is what stands already', () => {
    const { effect, opened } = effectOn(
      'raise regular price by 5\nwithin regular price at most 20, else trim',
      [1000, 1700, 2000].map((price) => priced(price)),
    );
    expect(effect.sku).toEqual({ changes: 2, stays: 1, stopped: 0, failed: 0 });
    expect(effect.guards[0]!.trimmed).toBe(2);
    expect(opened({ of: 'trimmed', place: 0 })).toBe(2);
  });

  it('counts what goes the other way than the rule says, because of its ending', () => {
    // 2 % on 12.20 is 12.44, to the nearest .99 11.99; on 12.80 it is 13.06, to 12.99.
    const raised = effectOn(
      'raise regular price by 2 %\nround regular price to .99',
      [1220, 1280, 1299].map((price) => priced(price)),
    );
    expect([raised.effect.contrary, raised.effect.sku.changes]).toEqual([1, 2]);
    expect(effectOn('round regular price to .99', [priced(1225)]).effect.contrary).toBe(0);
  });

  it('knows the margin of all together, and the bars of prices and margins before and after', () => {
    const { effect } = effectOn('raise regular price by 10 %', [priced(1200, 500), priced(999, 100)]);
    // 10.00 with VAT is 8.33 net; a bar takes its lower edge in.
    expect(effect.prices!.prices[PRICE_EDGES.indexOf(10)]!).toEqual({ before: 1, after: 2 });
    const one = effectOn('raise regular price by 10 %', [priced(1200, 500)]).effect.prices!;
    expect(one.marginBefore.margin()).toBe(5000);
    // 13.20 with VAT is 11.00 net: profit 6.00 of 11.00.
    expect(one.marginAfter.margin()).toBe(5455);
    expect(one.margins[MARGIN_EDGES.indexOf(50)]!).toEqual({ before: 1, after: 1 });
  });

  it('shows lengths of texts and counts of values', () => {
    const { effect } = effectOn('cut name at 12 characters', [{ name: 'A name of twenty-one' }, { name: 'Short' }]);
    expect(effect.fields[0]!.bars()).toEqual([
      { bar: '0', before: 1, after: 2 },
      { bar: '20', before: 1, after: 0 },
    ]);
    const tags = effectOn('add Gift to tags', [{ tags: null }, { tags: '1' }]).effect.fields[0]!;
    expect(tags.bars()).toEqual([
      { bar: '1', before: 1, after: 2 },
      { bar: '', before: 1, after: 0 },
    ]);
    expect(tags.nameOf('1')).toBe('Gift');
  });

  it('keeps a few samples of each kind, however many rows there are', () => {
    const rows = [...Array.from({ length: 500 }, (_, i) => priced(1000 + i, 100)), priced(1000, 900)];
    const samples = effectOn(
      'lower regular price by 1\nwithin margin of regular price at least 25 %',
      rows,
    ).effect.sampled();
    expect(samples.length).toBeLessThan(13);
    expect(samples.map(({ outcome }) => outcome.kind)).toContain('stopped');
    // The one that changes most, as a share, is the cheapest.
    expect(samples.map(({ id }) => id)).toContain('0');
  });

  it('opens each of its numbers as exactly the things that were counted', () => {
    const row = fc.record({
      price: fc.option(fc.integer({ min: 0, max: 20_000 }).map(String)),
      cost: fc.option(fc.integer({ min: 0, max: 9_000 }).map(String)),
      taxRate: fc.constantFrom('0', '500', '2000'),
      weight: fc.option(fc.integer({ min: 0, max: 900 }).map(String)),
    });
    const text = [
      'raise regular price by 10 %',
      'round regular price to .99',
      'raise weight by 10 where regular price > 20',
      'within margin of regular price at least 25 %',
      'within regular price at most 150, only tell',
      'within weight at most 500, else trim',
    ].join('\n');
    fc.assert(
      fc.property(fc.array(row, { maxLength: 30 }), (rows) => {
        const { effect, opened } = effectOn(text, rows);
        expect(opened({ of: 'changes' })).toBe(effect.sku.changes);
        expect(opened({ of: 'stays' })).toBe(effect.sku.stays);
        expect(opened({ of: 'stopped' })).toBe(effect.sku.stopped);
        expect(opened({ of: 'failed' })).toBe(effect.sku.failed);
        expect(opened({ of: 'contrary' })).toBe(effect.contrary);
        for (const [place, guard] of effect.guards.entries()) {
          expect(opened({ of: 'guard', place })).toBe(guard.stopped);
          expect(opened({ of: 'unknown', place })).toBe(guard.unknown);
          expect(opened({ of: 'told', place })).toBe(guard.told);
          expect(opened({ of: 'below floor', place })).toBe(guard.below);
        }
        for (const why of FAILURES) expect(opened({ of: 'failure', why })).toBe(effect.failures[why]);
        for (const of of ['prices', 'margins'] as const)
          expect(effect.prices![of].map((_, bar) => opened({ of, bar }))).toEqual(
            effect.prices![of].map((bar) => bar.after),
          );
        for (const spread of effect.fields)
          for (const { bar, after: many } of spread.bars())
            expect(opened({ of: 'value', field: spread.field.key, bar })).toBe(many);
      }),
    );
  });
});
