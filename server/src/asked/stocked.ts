import { availability, type Availability, type Bought, gapBit, type Stage, type WhenOut } from '@ivory/core';
import { sql } from 'kysely';

/** What says whether shoppers can buy an SKU, as the database gives it. */
export interface StockedRow {
  readonly stage: Stage;
  readonly stock: number;
  readonly when_out: WhenOut;
  readonly price: string | null;
  readonly bought: Bought;
  readonly bought_from: number | null;
  readonly is_part_off: boolean;
  readonly arrived: boolean;
}

/** Whether a part of an SKU of `SHELF` is off. */
export const IS_PART_OFF = sql<boolean>`(s.gaps & ${sql.lit(gapBit('part is off'))} <> 0)`;

/** The columns of a `StockedRow`, of an SKU of `SHELF` and its product `p`. */
export const STOCKED = sql`s.stage, s.stock, p.when_out, s.price, p.bought, p.bought_from, ${IS_PART_OFF} as is_part_off, sk.arrived`;

/** Whether shoppers see an SKU and can buy it today, which is a day of the shop's zone. */
export const availabilityOf = (row: StockedRow, today: number): Availability =>
  availability({
    stage: row.stage,
    stock: row.stock,
    whenOut: row.when_out,
    hasPrice: row.price !== null,
    isPartOff: row.is_part_off,
    hasArrived: row.arrived,
    bought: row.bought,
    boughtFrom: row.bought_from,
    today,
  });
