import { type Names } from './names.ts';
import { type Register } from './register.ts';

/** What a question, a value or a file is read with: the fields that the shop has, and its names. */
export interface Asking {
  readonly register: Register;
  readonly names: Names;
}
