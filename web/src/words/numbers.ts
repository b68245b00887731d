import { showBasisPoints } from '@ivory/core';

const WHOLE = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 });

/** 1234 as 1,234. */
export const whole = (value: number): string => WHOLE.format(value);
/** A number with what it counts. */
export const counted = (count: string, one: string, many: string): string => `${count} ${count === '1' ? one : many}`;
/** Basis points to one place, as margins are read: 41.2 %. */
export const share = (basisPoints: number | null): string =>
  basisPoints === null ? '–' : showBasisPoints(Math.round(basisPoints / 10) * 10);
/** Bytes as people read them. */
export const size = (bytes: number): string =>
  bytes < 1_000_000 ? `${whole(Math.ceil(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
