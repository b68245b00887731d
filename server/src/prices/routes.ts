import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type AppContext } from '../http/appContext.ts';
import { serve } from '../http/route.ts';
import { seenAt } from '../http/lookedAt.ts';
import { getCalendar } from './calendar.ts';
import { tellShipping } from './shipping.ts';
import { tryFormula } from './tryFormula.ts';

export function pricesRoutes(app: Hono, { db, person }: AppContext): void {
  serve(app, calls.tryFormula, ({ body, looked }) => tryFormula(seenAt(db, looked), body));
  serve(app, calls.tellShipping, ({ body, looked }) => tellShipping(seenAt(db, looked), body.country, body.lines));
  serve(app, calls.getCalendar, () => getCalendar(db, person.id));
}
