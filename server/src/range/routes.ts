import { calls } from '@ivory/contract';
import { type Hono } from 'hono';
import { type AppContext } from '../http/appContext.ts';
import { seenAt } from '../http/lookedAt.ts';
import { serve } from '../http/route.ts';
import { previewRule } from '../rules/previewRule.ts';
import { answerQuestion, nearQuestions } from '../asked/answers.ts';
import { openList } from './lists.ts';
import { nextGtins } from './nextGtins.ts';
import { valueHistory } from '../things/valueHistory.ts';
import { readShop } from '../asked/names.ts';
import { makeSet, readSet } from '../asked/sets.ts';
import { variantRowsOf } from '../asked/productRows.ts';
import { productsBeside } from './beside.ts';
import { clearedAway } from '../things/clearedAway.ts';
import { getProduct } from './product.ts';
import { getSku } from './sku.ts';
import { countThings, getThing, listThings } from '../things/things.ts';
import { countSpine } from './spine.ts';
import { countValues } from '../asked/values.ts';

export function rangeRoutes(app: Hono, { db, person, storefront }: AppContext): void {
  serve(app, calls.getShop, async () => {
    const shop = await readShop(db);
    const { name, timeZone, names, settings, register, outlets, outDefault, placeLevels, kept, unplaced } = shop;
    const { ownFields, gapNeeds } = shop;
    const lists = [...names.lists].map(([key, { byId, alsoCalled }]) => [
      key,
      [...byId].map(([id, name]) => ({ id, name, ...(alsoCalled.has(id) && { alsoCalled: alsoCalled.get(id) }) })),
    ]);
    return {
      name,
      timeZone,
      storefront,
      currency: names.currency.code,
      person: person.name,
      ...settings,
      version: register.version,
      fields: [...ownFields].map((field) => ({ ...field, usedIn: [...field.usedIn], neededIn: [...field.neededIn] })),
      outlets: outlets.map(({ id, name }) => ({ id, name })),
      outDefault,
      gapNeeds: { ...gapNeeds, measuredIn: [...gapNeeds.measuredIn] },
      placeLevels: [...placeLevels],
      rules: [...kept],
      unplaced: [...unplaced],
      lists: Object.fromEntries(lists) as Record<string, { id: string; name: string }[]>,
      categories: [...names.categories.categories],
    };
  });
  serve(app, calls.answerQuestion, ({ body, looked }) => answerQuestion(seenAt(db, looked), person.id, body));
  serve(app, calls.nearQuestions, ({ body, asker, looked }) => nearQuestions(seenAt(db, looked), body.question, asker));
  serve(app, calls.makeSet, ({ body, looked }) => makeSet(seenAt(db, looked), body.question, body.sort, body.of));
  serve(app, calls.readSet, ({ params, query, looked }) =>
    readSet(seenAt(db, looked), person.id, params.id, query.from, query.count, query.columns),
  );
  serve(app, calls.listVariants, ({ body, looked }) => variantRowsOf(seenAt(db, looked), person.id, body));
  serve(app, calls.countValues, ({ body, looked }) => countValues(seenAt(db, looked), body.question, body.field));
  serve(app, calls.countThings, () => countThings(db));
  serve(app, calls.listThings, ({ params, query, looked }) =>
    listThings(seenAt(db, looked), person.id, params.kind, query.of),
  );
  serve(app, calls.getThing, ({ params, looked }) => getThing(seenAt(db, looked), person.id, params.kind, params.id));
  serve(app, calls.countSpine, ({ body, looked }) => countSpine(seenAt(db, looked), body.question));
  serve(app, calls.listCleared, ({ query }) => clearedAway(db, person.id, query.from, query.count));
  serve(app, calls.nextGtins, async ({ body }) => ({ gtins: await nextGtins(db, person.id, body.count) }));
  serve(app, calls.getBeside, ({ params }) => productsBeside(db, params.id, params.product));
  serve(app, calls.getProduct, ({ params, looked }) =>
    getProduct(seenAt(db, looked), person.id, params.id, storefront),
  );
  serve(app, calls.getValueHistory, ({ params: { kind, id, field } }) => valueHistory(db, kind, id, field));
  serve(app, calls.getSku, ({ params, looked }) => getSku(seenAt(db, looked), person.id, params.id, storefront));
  serve(app, calls.openList, ({ body }) => openList(db, person.id, body.title, body.of));
  serve(app, calls.previewRule, ({ body, looked }) => previewRule(seenAt(db, looked), person.id, body));
}
