import { COMPARISON, WRITTEN } from './comparisonTable.ts';
import { COMPARISONS } from './tree.ts';
import { holdsNumber, holdsText } from '../values/comparing.ts';
import { VALUE_TYPES } from '../values/values.ts';

describe('the table of comparisons', () => {
  it('has each form of words once, and before it every longer one that begins with it', () => {
    const forms = WRITTEN.map(([form]) => form);
    expect(new Set(forms).size).toBe(forms.length);
    for (const [i, form] of forms.entries())
      expect(forms.slice(i + 1).filter((later) => later.startsWith(`${form} `))).toEqual([]);
    expect(new Set(WRITTEN.map(([, comparison]) => comparison))).toEqual(new Set(COMPARISONS));
  });

  it('is of comparisons that some type of values takes, each of which counts entries only where the type has any', () => {
    const types = Object.values(VALUE_TYPES);
    for (const comparison of COMPARISONS)
      expect(types.some((type) => type.comparisons.includes(comparison)))
        .withContext(comparison)
        .toBeTrue();
    for (const type of types)
      for (const comparison of type.comparisons)
        if (COMPARISON[comparison].ofCounts) expect(type.entriesOf).withContext(comparison).toBeDefined();
  });

  it('says what holds of a row that has no value: that it is empty, is not what is asked for, and has at most so many', () => {
    const ofNothing = COMPARISONS.filter((comparison) => {
      const { ofCounts, ofEmpty } = COMPARISON[comparison];
      return ofCounts ? ofCounts(0, 1) : ofEmpty;
    });
    expect(ofNothing).toEqual(['is not', 'is empty', 'has at most']);
  });

  it('refuses texts and numbers by what they do not know, and never takes it for “is”', () => {
    expect(() => holdsText('<', 'a', 'a')).toThrowError(/texts are not compared by “<”/);
    expect(() => holdsNumber('contains', '1', '1')).toThrowError(/numbers are not compared by “contains”/);
  });
});
