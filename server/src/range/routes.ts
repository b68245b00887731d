import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type House } from '../http/house.ts';
import { serve } from '../http/route.ts';
import { previewRule } from '../prices/previewRule.ts';
import { answerQuestion, nearQuestions } from './answers.ts';
import { openList } from './lists.ts';
import { readShop } from './names.ts';
import { makeSet, readSet } from './sets.ts';
import { getSku } from './sku.ts';
import { countSpine } from './spine.ts';

export function rangeRoutes(app: Hono, { db, person, storefront, clock }: House): void {
  serve(app, calls.getShop, async () => {
    const { name, timeZone, names, settings } = await readShop(db);
    const list = (byId: ReadonlyMap<string, string>) => [...byId].map(([id, name]) => ({ id, name }));
    return {
      name,
      timeZone,
      storefront,
      currency: names.currency.code,
      person: person.name,
      ...settings,
      brands: list(names.brand.byId),
      suppliers: list(names.supplier.byId),
      lists: list(names.lists.byId),
      categories: [...names.categories.categories],
    };
  });
  serve(app, calls.answerQuestion, ({ body }) => answerQuestion(db, person.id, body.question, body.sort));
  serve(app, calls.nearQuestions, ({ body, asker }) => nearQuestions(db, body.question, asker));
  serve(app, calls.makeSet, ({ body }) => makeSet(db, body.question, body.sort));
  serve(app, calls.readSet, ({ params, query }) => readSet(db, person.id, params.id, query.from, query.count));
  serve(app, calls.countSpine, ({ body }) => countSpine(db, body.question));
  serve(app, calls.getSku, ({ params }) => getSku(db, person.id, params.id, clock(), storefront));
  serve(app, calls.openList, ({ body }) => openList(db, body.title, body.of));
  serve(app, calls.previewRule, ({ body }) => previewRule(db, body.question, body.rule));
}
