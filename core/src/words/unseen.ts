/**
 * Characters that cannot be seen and change what is seen, or mean nothing in a text: control characters besides white space,
 * those that turn the direction of writing (U+202E makes `gpj.exe` of `exe.jpg`), white space of no width, halves of a pair.
 * The joiners that scripts and emoji need are not among them.
 */
const UNSEEN = /[\u0000-\u0008\u000e-\u001f\u007f-\u0084\u0086-\u009f\u200b\u2060\u202a-\u202e\u2066-\u2069]|\p{Cs}/u;

/** Nearly every text is written with these alone. */
const SEEN = /^[ -~]*$/;

/** The first character of a text that cannot be seen, as `U+202E`; undefined when there is none. */
export function unseenCharacter(text: string): string | undefined {
  if (SEEN.test(text)) return undefined;
  const found = UNSEEN.exec(text)?.[0];
  return found === undefined ? undefined : `U+${found.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}`;
}

/** A text for reading in which what cannot be seen is marked: `exe⟨U+202E⟩gpj`. */
export const markedUnseen = (text: string): string =>
  text.replace(new RegExp(UNSEEN, 'gu'), (character) => `⟨${unseenCharacter(character)}⟩`);
