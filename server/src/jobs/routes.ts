import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type AppContext } from '../http/appContext.ts';
import { serve } from '../http/route.ts';
import { listWork, readWork, shown } from './work.ts';

export function jobRoutes(app: Hono, { db, queue }: AppContext): void {
  serve(app, calls.listWork, async () => ({ work: await listWork(db) }));
  serve(app, calls.getWork, async ({ params }) => shown(await readWork(db, params.id)));
  serve(app, calls.stopWork, ({ params }) => queue.askToStop(params.id));
}
