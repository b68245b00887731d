import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type House } from '../http/house.ts';
import { serve } from '../http/route.ts';
import { seenAt } from '../http/lookedAt.ts';
import { getCalendar } from './calendar.ts';
import { tryFormula } from './tryFormula.ts';

export function pricesRoutes(app: Hono, { db, person }: House): void {
  serve(app, calls.tryFormula, ({ body, looked }) => tryFormula(seenAt(db, looked), body));
  serve(app, calls.getCalendar, () => getCalendar(db, person.id));
}
