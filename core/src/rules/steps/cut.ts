import { isEditable } from '../../kinds/field.ts';
import { tidied } from '../../words/tidied.ts';
import { wholeNumber } from '../slots.ts';
import { stepKind } from '../step.ts';
import { isText, onWords } from '../parts/text.ts';

/** A text of at most so many characters, cut at the end of a word where there is one. */
export function cutAtWord(text: string, most: number): string {
  const characters = [...text];
  if (characters.length <= most) return text;
  const head = characters.slice(0, most).join('');
  const isBetween = /\s/.test(characters[most]!);
  const atWord = isBetween ? head : head.replace(/\s+\S*$/, '');
  return tidied(atWord === '' ? head : atWord);
}

/** Cuts a text to so many characters, at a word. */
export const cut = stepKind({
  sentence: 'cut {field} at {most} characters',
  slots: { most: wholeNumber(1, 20_000, '60') },
  takes: (field) => isEditable(field) && isText(field) && field.type !== 'code',
  prepare: (field, { most }, asking) => onWords(field, asking, (text) => cutAtWord(text, Number(most))),
});
