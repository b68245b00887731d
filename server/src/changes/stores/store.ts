import { type Field, type Store } from '@ivory/core';
import { type RawBuilder } from 'kysely';
import { type Tx } from '../../db/connect.ts';

export type Sql = RawBuilder<unknown>;

/** What stands in the shop now for a line `l`, in canonical text: what to join, and the value then. */
export interface Standing {
  readonly join: Sql;
  readonly value: RawBuilder<string | null>;
}

/** A landing at work. */
export interface Landing {
  readonly tx: Tx;
  readonly proof: string;
  readonly landing: string;
  readonly person: string;
  /** The reason of the movements by which it changes stock. */
  readonly movement: 'sale' | 'correction';
}

/** How a field is kept: one file for each way beside this one, and nothing outside this folder asks which it is. */
export interface StoreOf<S extends Store['in']> {
  /** What stands for lines `l` of the field. */
  standing(field: Field, store: Extract<Store, { in: S }>): Standing;
  /**
   * Writes lines of the field; `lines` is a condition on `live_line l`. Returns how many of them held: fewer than lines where a
   * `before` is not what stands.
   */
  apply(work: Landing, field: Field, store: Extract<Store, { in: S }>, lines: Sql): Promise<number>;
  /**
   * Fills the field of things that were just made, where it is not a column of their own table; `made` is a query for their ids
   * `id`, with the text of the field's line as `after`, of those that have one.
   */
  insert?(work: Landing, field: Field, store: Extract<Store, { in: S }>, made: Sql): Promise<void>;
  /** What is to be done before things are deleted; `lines` is a condition on their lines `live_line l`. */
  remove?(work: Landing, lines: Sql): Promise<void>;
  /** A query for what refers to what, `(id, ref)`: the thing that has the field, and each thing that its value names. */
  references?(field: Field, store: Extract<Store, { in: S }>): Sql;
}
