import { type Question } from '../question/tree.ts';
import { type Names } from './names.ts';
import { type Register } from './register.ts';

/** What a question, a value or a file is read with: the fields that the shop has, and its names. */
export interface Asking {
  readonly register: Register;
  readonly names: Names;
  /** The rules of assortments, by their ids; of those that have one, and one that reads. */
  readonly rules: ReadonlyMap<string, Question>;
  /** Takes out of HTML what may not stand in a text; who keeps nothing does without. */
  readonly cleanHtml?: (html: string) => string;
}
