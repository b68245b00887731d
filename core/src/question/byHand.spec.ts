import fc from 'fast-check';
import { arbitraryQuestion, testAsking, tries } from '../testing/index.ts';
import { byHand, leavingOut, puttingIn, withHand } from './byHand.ts';
import { answers } from './evaluate.ts';
import { parseQuestion } from './parse.ts';
import { printQuestion } from './print.ts';
import { plain } from './tree.ts';

const asking = testAsking({ brand: { 1: 'Larkspur' } });
const parsed = (text: string) => {
  const read = parseQuestion(text, asking);
  if (!read.ok) throw new Error(read.problem.code);
  return read.value;
};
const CODES = ['A-1', 'B-2', 'C-3'];

describe('a working set by a question and by hand', () => {
  it('stands in the question, and is found in it again', () => {
    const set = leavingOut(puttingIn(byHand(parsed('brand is Larkspur stock > 0')), ['A-1']), ['B-2', 'C-3']);
    const text = printQuestion(withHand(set), asking);
    expect(text).toBe('((brand is Larkspur stock > 0) or code is A-1) not code is B-2, C-3');
    expect(byHand(parsed(text))).toEqual(set);
  });

  it('puts in what was left out, and leaves out what was put in', () => {
    const left = leavingOut(byHand(parsed('brand is Larkspur')), ['A-1', 'B-2']);
    expect(puttingIn(left, ['A-1'])).toEqual({ rest: left.rest, putIn: ['A-1'], leftOut: ['B-2'] });
    expect(leavingOut(puttingIn(left, ['A-1']), ['A-1']).putIn).toEqual([]);
  });

  it('needs nothing put in where the question asks for everything', () => {
    expect(withHand(puttingIn(byHand(parsed('')), ['A-1']))).toEqual(parsed(''));
  });

  it('holds what answers the question or is put in, and is not left out (random questions)', () => {
    const some = fc.subarray(CODES);
    fc.assert(
      fc.property(arbitraryQuestion(asking), some, some, fc.constantFrom(...CODES, 'D-4'), (rest, ins, outs, code) => {
        // A question that itself ends by hand is read as such; what it asks stays the same.
        const set = leavingOut(puttingIn(byHand(plain(rest)), ins), outs);
        const row = { code, price: '500', brand: '1' };
        const isEverything = set.rest.kind === 'all' && set.rest.of.length === 0;
        const wanted =
          (isEverything || answers(set.rest, row, asking) || set.putIn.includes(code)) && !set.leftOut.includes(code);
        expect(answers(withHand(set), row, asking)).toBe(wanted);
        expect(answers(withHand(byHand(plain(rest))), row, asking)).toBe(answers(rest, row, asking));
      }),
      { numRuns: tries(500) },
    );
  });
});
