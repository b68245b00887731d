import { currencyOf } from '@ivory/core';
import { type RuleForm } from '../state/ruleDraft.ts';
import { readForm } from './ruleForm.ts';

const GBP = currencyOf('GBP');
const form = (more: Partial<RuleForm> = {}): RuleForm => ({
  verb: 'raise by',
  amount: '',
  ending: null,
  direction: 'nearest',
  floor: '',
  largest: '',
  ...more,
});
const read = (more: Partial<RuleForm>) => readForm(form(more), GBP);

describe('the rule as typed', () => {
  it('takes 20 for an amount and 20 % for a share, and says which before anything happens', () => {
    expect(read({ amount: '20' })).toEqual(
      jasmine.objectContaining({
        understood: 'raise by £20.00 each',
        rule: { steps: [{ do: 'raise by', by: { kind: 'amount', amount: '2000' } }], guards: {} },
      }),
    );
    expect(read({ amount: '20 %' })).toEqual(
      jasmine.objectContaining({
        understood: 'raise by 20 % of the price',
        rule: { steps: [{ do: 'raise by', by: { kind: 'percent', percent: '200000' } }], guards: {} },
      }),
    );
  });

  it('is no rule until it says by how much', () => {
    expect(read({}).rule).toBeUndefined();
    expect(read({ verb: 'nothing' }).rule).toBeUndefined();
    expect(read({ verb: 'nothing', ending: '.99' }).rule!.steps).toEqual([
      { do: 'round to', ending: '.99', direction: 'nearest' },
    ]);
  });

  it('says what is wrong with which field', () => {
    expect(read({ amount: '1O' }).problems.amount).toContain('Is 10 right?');
    for (const amount of ['-5 %', '-5', '−5'])
      expect(read({ amount }).problems.amount).withContext(amount).toContain('write it without one');
    expect(read({ amount: '+5 %' }).problems.amount).toBeUndefined();
    expect(read({ verb: 'set', amount: '5 %' }).problems.amount).toContain('not an amount');
    expect(read({ amount: '5 %', floor: 'some' }).problems.floor).toContain('25 %');
    expect(read({ amount: '5 %', floor: '100' }).rule).toBeUndefined();
    expect(read({ amount: '5 %', largest: '-1' }).problems.largest).toBeDefined();
  });

  it('carries its guards in the units of the contract', () => {
    expect(read({ amount: '5 %', floor: '12.5', largest: '30 %' }).rule!.guards).toEqual({
      floorMargin: 1250,
      largestChange: '300000',
    });
  });

  it('reads as a sentence, for the journal', () => {
    expect(read({ amount: '5 %', ending: '.99', direction: 'up' }).sentence).toBe(
      'raise by 5 % of the price, next higher .99',
    );
    expect(read({ verb: 'set', amount: '12.5' }).sentence).toBe('every price becomes £12.50');
  });
});
