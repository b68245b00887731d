import { type Question } from '../question/tree.ts';
import { type Names } from './names.ts';
import { type Register } from './register.ts';

/** What a question, a value or a file is read with: the fields that the shop has, and its names. */
export interface Asking {
  readonly register: Register;
  readonly names: Names;
  /** The rules of assortments by id; assortments without a readable rule are left out. */
  readonly rules: ReadonlyMap<string, Question>;
  /** The day that it is in the shop, as days since 1970: what `in the last 30 days` counts from. */
  readonly today: number;
  /** Takes out of HTML what may not stand in a text; who keeps nothing does without. */
  readonly cleanHtml?: (html: string) => string;
}
