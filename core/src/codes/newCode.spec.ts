import fc from 'fast-check';
import { codeKey, readSkuCode } from './skuCode.ts';
import { codeByPattern, countUp, firstCode, FreeCodes } from './newCode.ts';

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
