import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type AppContext } from '../http/appContext.ts';
import { serve } from '../http/route.ts';
import { keepLayout, listLayouts } from './keptLayouts.ts';
import { keepRule, listRules } from './keptRules.ts';
import { forget } from './keepRow.ts';
import { keepSet } from './keptSets.ts';

/** What is kept under names: working sets, rules, and columns of desks. */
export function keptRoutes(app: Hono, { db, person }: AppContext): void {
  serve(app, calls.keepSet, ({ body }) => keepSet(db, person.id, body));
  serve(app, calls.forgetSet, ({ params }) => forget(db, 'kept_set', params.id));
  serve(app, calls.listLayouts, ({ params }) => listLayouts(db, person.id, params.desk));
  serve(app, calls.keepLayout, ({ body }) => keepLayout(db, person.id, body));
  serve(app, calls.forgetLayout, ({ params }) => forget(db, 'kept_layout', params.id));
  serve(app, calls.listRules, () => listRules(db));
  serve(app, calls.keepRule, ({ body }) => keepRule(db, person.id, body));
  serve(app, calls.forgetRule, ({ params }) => forget(db, 'kept_rule', params.id));
}
