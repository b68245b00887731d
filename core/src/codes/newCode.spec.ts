import fc from 'fast-check';
import { codeKey, readSkuCode } from './skuCode.ts';
import { codeByPattern, codesByPattern, countUp, firstCode, FreeCodes } from './newCode.ts';

describe('codes for what is new', () => {
  it('count up, with the zeros kept (common practice)', () => {
    expect(['AB-009', 'AB-999', 'AB-009-X', '7', 'QUILL'].map(countUp)).toEqual([
      'AB-010',
      'AB-1000',
      'AB-010-X',
      '8',
      'QUILL-2',
    ]);
  });

  it('follow a pattern, without what has no value', () => {
    const parts = new Map([
      ['base', 'Ig-001'],
      ['colour', 'Öxblood'],
      ['size', '30 ml'],
    ]);
    expect(codeByPattern('{base}-{colour:3}-{size}', parts)).toBe('Ig-001-OXB-30ML');
    expect(codeByPattern('{base}-{nib}-{size}', parts)).toBe('Ig-001-30ML');
    expect(codeByPattern('{nib}-{base}', parts)).toBe('Ig-001');
  });

  it('never state another size than their own, whatever is taken', () => {
    const parts = (colour: string, size: string) =>
      new Map([
        ['base', 'HM-001'],
        ['colour', colour],
        ['size', size],
      ]);
    const first = (pattern: string, ...all: [string, string][]) => {
      const taken = new Set<string>();
      const free = new FreeCodes((code) => taken.has(codeKey(code)) || !taken.add(codeKey(code)));
      return all.map(([colour, size]) => free.firstOf(codesByPattern(pattern, parts(colour, size))));
    };
    expect(
      first('{base}-{colour:3}-{size}', ['Sky', '7 oz'], ['Skylark', '7 oz'], ['Sky', '7 oz'], ['Sky', '8 oz']),
    ).toEqual(['HM-001-SKY-7OZ', 'HM-001-SKYL-7OZ', 'HM-001-SKY-7OZ-B', 'HM-001-SKY-8OZ']);
    expect(first('{base}-{size:3}', ['', '1000 ml'], ['', '100 ml'], ['', 'Pack of 12'], ['', 'Pack of 6'])).toEqual([
      'HM-001-1000',
      'HM-001-100',
      'HM-001-PAC',
      'HM-001-PACK',
    ]);
    // 1.5 mm is not 15 mm.
    expect(first('{base}-{size}', ['', '1.5 mm'], ['', '15 mm'], ['', '0,5 mm'])).toEqual([
      'HM-001-1.5MM',
      'HM-001-15MM',
      'HM-001-0.5MM',
    ]);
  });

  it('by a pattern are codes, each once, that hold the number of the size (property)', () => {
    const size = fc.integer({ min: 1, max: 2_000 }).map((number) => `${number} ml`);
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.constantFrom('Sky', 'Skylark', 'Slate'), size), { maxLength: 60 }), (all) => {
        const taken = new Set<string>();
        const free = new FreeCodes((code) => taken.has(codeKey(code)) || !taken.add(codeKey(code)));
        for (const [colour, text] of all) {
          const parts = new Map([
            ['base', 'X-1'],
            ['colour', colour],
            ['size', text],
          ]);
          const code = free.firstOf(codesByPattern('{base}-{colour:3}-{size:2}', parts));
          expect(readSkuCode(code)).toEqual({ ok: true, value: code });
          expect(/^X-1-[A-Z]+-(\d+)/.exec(code)![1]).toBe(text.replace(' ml', ''));
        }
        expect(taken.size).toBe(all.length);
      }),
    );
  });

  it('begin with the letters of the name, and skip what is taken by whatever case', () => {
    expect(firstCode('Larkspur Iron Gall Ink')).toBe('LIGI-001');
    expect(firstCode('…')).toBe('P-001');
    const taken = new Set(['ligi-001', 'ligi-002']);
    const free = new FreeCodes((code) => taken.has(codeKey(code)));
    expect([free.next('LIGI-001'), free.next('ligi-001'), free.next('LIGI-001')]).toEqual([
      'LIGI-003',
      'LIGI-004',
      'LIGI-005',
    ]);
  });

  it('are codes, whatever the name', () => {
    fc.assert(
      fc.property(fc.string(), fc.nat(30), (name, taken) => {
        let left = taken;
        const code = new FreeCodes(() => left-- > 0).next(firstCode(name));
        expect(readSkuCode(code)).toEqual({ ok: true, value: code });
      }),
    );
  });
});
