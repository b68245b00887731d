import { type Choice, type Field } from './field.ts';

/** What an entry of the register says besides what it is a field of, and what it is called. */
export type Rest = Omit<Field, 'key' | 'kind' | 'name' | 'alsoCalled' | 'shopperSees'> & {
  readonly shopperSees?: boolean;
};

/** Choices that are kept as they are read. */
export const named = (choices: readonly string[]): Choice[] => choices.map((key) => ({ key, name: key }));

/** A column of a table, or of one beside it whose `key` is the thing's id. */
export const column = (table: string, name: string, key = 'id') =>
  ({ in: 'column', table, key, column: name }) as const;
