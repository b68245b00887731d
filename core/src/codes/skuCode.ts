import { bad, good, type Result } from '../problems/problem.ts';
import { markedUnseen, unseenCharacter } from '../words/unseen.ts';

const LONGEST_CODE = 64;

/** Codes are compared without regard to case and outer spaces; the SQL twin is `code_key`. */
export function codeKey(code: string): string {
  return code.trim().toLowerCase();
}

/** Reads an SKU's code: 1 to 64 characters, none of them a control character. */
export function readSkuCode(text: string): Result<string> {
  const value = text.trim();
  if (value === '') return bad('required', {});
  if (value.length > LONGEST_CODE) return bad('code-too-long', { value, expected: String(LONGEST_CODE) });

  if (/[\u0000-\u001f\u007f]/.test(value) || unseenCharacter(value) !== undefined)
    return bad('code-control-character', { value: markedUnseen(value) });
  return good(value);
}
