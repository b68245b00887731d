import { nameFinder } from './nameSpans.ts';
import { replaced } from './spans.ts';
import { tidied } from './tidied.ts';

const without = (name: string, text: string): string => tidied(replaced(text, nameFinder(name)(text), ''));

describe('a name that is taken out of a text', () => {
  it('goes without the possessive that it has, and with one that it has not', () => {
    expect(without('Harrow’s', 'Harrow Ink')).toBe('Ink');
    expect(without('Harrow’s', "Harrow's Ink")).toBe('Ink');
    expect(without('Harrow’s', 'Harrows Ink')).toBe('Ink');
    expect(without('Harrow', 'Harrow´s Ink')).toBe('Ink');
  });

  it('goes written together, and with & or and', () => {
    expect(without('Moss Lane', 'Mosslane Notebook A5')).toBe('Notebook A5');
    expect(without('Harrow & Pine', 'Ink, Harrow and Pine, blue')).toBe('Ink, blue');
    expect(without('Harrow and Pine', 'Harrow&Pine Ink')).toBe('Ink');
    expect(without('Harrow & Pine', 'HARROW & PINE’S Ink')).toBe('Ink');
  });

  it('takes what is nothing without it along', () => {
    expect(without('Moss Lane', 'Notebook by Moss Lane')).toBe('Notebook');
    expect(without('Moss Lane', 'Moss Lane® Notebook')).toBe('Notebook');
    expect(without('Moss Lane', 'Moss Lane ™ Notebook by Fell')).toBe('Notebook by Fell');
  });

  it('stays where it is a part of a word, also over a hyphen', () => {
    expect(without('Moss', 'Moss-green Ink')).toBe('Moss-green Ink');
    expect(without('Moss', 'Ink of dark-moss')).toBe('Ink of dark-moss');
    expect(without('Moss', 'Mossy Ink')).toBe('Mossy Ink');
    expect(without('Moss', 'Ink – Moss - green')).toBe('Ink – green');
    expect(without('', 'Ink')).toBe('Ink');
  });
});
