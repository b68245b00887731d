import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type House } from '../http/house.ts';
import { serve } from '../http/route.ts';
import { getCalendar } from './calendar.ts';

export function pricesRoutes(app: Hono, { db, person }: House): void {
  serve(app, calls.getCalendar, () => getCalendar(db, person.id));
}
