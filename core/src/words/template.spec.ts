import { tries } from '../testing/index.ts';
import fc from 'fast-check';
import { readTemplate, templateText, written } from './template.ts';
import { tidied } from './tidied.ts';

const KEYS: Readonly<Record<string, string>> = { brand: 'brand', model: 'own:3', 'nib width': 'own:4' };
const keyOf = (text: string) => KEYS[text.toLowerCase()];
const nameOf = (key: string) => Object.keys(KEYS).find((name) => KEYS[name] === key)!;
const read = (text: string) => {
  const parts = readTemplate(text, keyOf);
  if (!parts.ok) throw new Error(parts.problem.code);
  return parts.value;
};

describe('a template', () => {
  it('writes fields between words, and the first that is not empty of several', () => {
    const values = new Map([
      ['brand', 'Moss Lane'],
      ['own:4', '0.5 mm'],
    ]);
    const valueOf = (key: string) => values.get(key) ?? '';
    expect(written(read('{brand} {model|"Pen"}, {nib width}'), valueOf)).toBe('Moss Lane Pen, 0.5 mm');
    expect(written(read('{brand} – {model} ({Nib Width})'), valueOf))
      .withContext('nothing stands between brand and nib')
      .toBe('Moss Lane – (0.5 mm)');
    expect(written(read('{model} - {brand}'), valueOf)).toBe('Moss Lane');
  });

  it('is refused where a brace does not close or a field is not there, with which', () => {
    const problem = (text: string) => {
      const parts = readTemplate(text, keyOf);
      return parts.ok ? undefined : [parts.problem.code, parts.problem.value];
    };
    expect(problem('{brand')).toEqual(['template-brace', '{']);
    expect(problem('brand}')).toEqual(['template-brace', '}']);
    expect(problem('{colur}')).toEqual(['template-field', 'colur']);
    expect(problem('{}')).toEqual(['template-field', '{}']);
  });

  it('reads back as it is written', () => {
    const piece = fc.oneof(
      fc.stringMatching(/^[a-z ,–-]{1,8}$/),
      fc.constantFrom('{brand}', '{model|"Pen"}', '{nib width|brand|model}'),
    );
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 6 }), (pieces) => {
        const text = pieces.join('');
        expect(templateText(read(text), nameOf)).toBe(text);
      }),
    );
  });
});

describe('a text that is tidied', () => {
  it('has no double spaces and nothing left over at its ends or between', () => {
    expect(tidied('  - Ink,  Blue , | ')).toBe('Ink, Blue');
    expect(tidied('Ink - - Blue')).toBe('Ink - Blue');
    expect(tidied('Ink, , Blue ()')).toBe('Ink, Blue');
    expect(tidied('A-5 notebook: ruled')).withContext('what says something stays').toBe('A-5 notebook: ruled');
  });

  it('stays as it is when it is tidied again', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[ab ,:|–()-]{0,14}$/), (text) => {
        const once = tidied(text);
        expect(tidied(once)).toBe(once);
      }),
      { numRuns: tries(5_000) },
    );
  });
});
