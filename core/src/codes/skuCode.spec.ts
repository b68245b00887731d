import { codeKey, readSkuCode } from './skuCode.ts';

const code = (text: string) => {
  const read = readSkuCode(text);
  return read.ok ? read.value : read.problem.code;
};

describe('SKU codes', () => {
  it('have 1 to 64 characters, outer spaces not counted', () => {
    expect(code('  IG-0001 ')).toBe('IG-0001');
    expect(code('x'.repeat(64))).toHaveSize(64);
    expect(code('x'.repeat(65))).toBe('code-too-long');
    expect(code('   ')).toBe('required');
  });

  it('hold no control character', () => {
    expect(code('IG\u00070001')).toBe('code-control-character');
    expect(code('IG\t0001')).toBe('code-control-character');
  });

  it('are the same without regard to case and outer spaces', () => {
    expect(codeKey(' ig-0001')).toBe(codeKey('IG-0001 '));
    expect(codeKey('IG-0001')).not.toBe(codeKey('IG-00010'));
  });
});
