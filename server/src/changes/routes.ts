import { calls, refusalWords } from '@ivory/contract';
import { type Hono } from 'hono';
import { type Db, inTransaction } from '../db/connect.ts';
import { tellAlone } from '../db/tell.ts';
import { type AppContext } from '../http/appContext.ts';
import { csvDownload } from '../http/csvDownload.ts';
import { type LookedAt, seenAt } from '../http/lookedAt.ts';
import { parsedTexts, serve } from '../http/route.ts';
import { readShop, type Shop } from '../asked/names.ts';
import { Refusal } from '../refusal.ts';
import { ofProducts } from '../asked/productRows.ts';
import { pendingOn } from '../asked/rows.ts';
import { changeType } from './propose/goods/changeType.ts';
import { editCells } from './propose/cells/editCells.ts';
import { getLanding, landingFile, landingLines, landingTexts, listLandings, noteLanding } from './journal/journal.ts';
import { land } from './land/land.ts';
import { agreeTo } from './proof/agree.ts';
import { handLines, leaveOut, proofLines } from './lookedThrough/lines.ts';
import { isLarge, MANY_LINES } from './proof/many.ts';
import { beginLanding, discard, discardMany } from './proof/proof.ts';
import { goodsOfProof } from './proof/goodsOfProof.ts';
import { proofFile } from './lookedThrough/proofFile.ts';
import { listProofFormulas } from './proof/proofFormulas.ts';
import { proofSpread } from './lookedThrough/proofSpread.ts';
import { proofsBeside, setAside, takeUp } from './proof/setAside.ts';
import { redoLast, undoLast } from './propose/undo.ts';
import { callOff, listPlanned, movePlanned, planProof } from './planned/plan.ts';
import { copyParts } from './propose/copies/copyParts.ts';
import { copySale } from './propose/copies/copySale.ts';
import { copyProduct } from './propose/copies/copyProduct.ts';
import { makeProduct, makeSkus } from './propose/goods/makeGoods.ts';
import { makeRows } from './propose/goods/makeRows.ts';
import { makePaths } from './propose/things/makePaths.ts';
import { makeThings } from './propose/things/makeThings.ts';
import { moveThings } from './propose/things/moveThings.ts';
import { putRule } from '../rules/putRule.ts';
import { putStep } from './propose/cells/putStep.ts';
import { setQuantityPrices } from './propose/cells/quantityPrices.ts';
import { removeThings } from './propose/things/removeThings.ts';
import { summarize, summarizeHand, summarizeWaiting } from './lookedThrough/summary.ts';
import { takeSkusAway } from './propose/goods/takeSkusAway.ts';
import { takeBack } from './propose/takeBack.ts';

export function changeRoutes(app: Hono, context: AppContext): void {
  tellOfHand(app, context);
  handRoutes(app, context);
  proofRoutes(app, context);
  plannedRoutes(app, context);
  journalRoutes(app, context);
}

/**
 * The shop from which a set is changed, as it is looked at; undefined where that is now and for anybody, which whoever changes it reads itself.
 * What was is not changed.
 */
async function changedFrom(db: Db, looked: LookedAt): Promise<Shop | undefined> {
  if (looked.moment === undefined && looked.group === undefined) return undefined;
  const seen = seenAt(db, looked);
  if (seen.isPast) throw new Refusal('not valid', refusalWords.changes.pastIsNotChanged);
  return readShop(seen);
}

/** Every open browser is told when the proof in hand is another. */
function tellOfHand(app: Hono, { db, log }: AppContext): void {
  const changing = [
    calls.editCells,
    calls.putStep,
    calls.makeProduct,
    calls.copyProduct,
    calls.copyParts,
    calls.copySale,
    calls.makeRows,
    calls.makeSkus,
    calls.takeSkusAway,
    calls.makeThings,
    calls.makePaths,
    calls.removeThings,
    calls.moveThings,
    calls.changeType,
    calls.undoEdit,
    calls.redoEdit,
    calls.putRule,
    calls.setQuantityPrices,
    calls.setAside,
    calls.takeUp,
    calls.planProof,
    calls.callOff,
    calls.leaveOut,
    calls.agreeTo,
    calls.discardProof,
    calls.discardProofs,
  ];
  for (const { method, path } of changing) {
    app.on(method, path, async (c, next) => {
      await next();
      if (!c.res.ok) return;
      // Nobody waits for it.
      tellAlone(db, { kind: 'hand', by: c.req.header('x-tab')?.slice(0, 64) ?? null }).catch((error: unknown) =>
        log.warn({ err: error as Error }, 'the proof in hand was not told of'),
      );
    });
  }
}

function handRoutes(app: Hono, { db, person }: AppContext): void {
  const hand = async () => ({ proof: await summarizeHand(db, person.id) });
  serve(app, calls.getHandProof, hand);
  serve(app, calls.getHandLines, async ({ params }) => ({ lines: await handLines(db, person.id, params.kind) }));
  serve(app, calls.editCells, async ({ body, looked }) => {
    const { things, productOf, refused } = await editCells(db, person.id, body, await changedFrom(db, looked));
    const [{ proof }, pending] = await Promise.all([hand(), pendingOn(db, person.id, things)]);
    return { proof, pending: ofProducts(pending, productOf), refused: [...refused] };
  });
  serve(app, calls.putStep, async ({ body, looked }) => ({
    ...(await putStep(db, person.id, body, await changedFrom(db, looked))),
    ...(await hand()),
  }));
  serve(app, calls.makeProduct, async ({ body }) => ({
    ...(await makeProduct(db, person.id, body)),
    ...(await hand()),
  }));
  serve(app, calls.makeRows, async ({ body }) => ({ ...(await makeRows(db, person.id, body)), ...(await hand()) }));
  serve(app, calls.copyParts, async ({ body }) => ({ ...(await copyParts(db, person.id, body)), ...(await hand()) }));
  serve(app, calls.takeSkusAway, async ({ body }) => ({
    ...(await takeSkusAway(db, person.id, body)),
    ...(await hand()),
  }));
  serve(app, calls.copyProduct, async ({ body }) => ({
    ids: await copyProduct(db, person.id, body),
    ...(await hand()),
  }));
  serve(app, calls.copySale, async ({ body }) => ({ id: await copySale(db, person.id, body), ...(await hand()) }));
  serve(app, calls.makeSkus, async ({ body }) => ({ ...(await makeSkus(db, person.id, body)), ...(await hand()) }));
  serve(app, calls.makeThings, async ({ body }) => ({ ids: await makeThings(db, person.id, body), ...(await hand()) }));
  serve(app, calls.makePaths, async ({ body }) => ({ ...(await makePaths(db, person.id, body)), ...(await hand()) }));
  serve(app, calls.removeThings, async ({ body }) => {
    await removeThings(db, person.id, body);
    return hand();
  });
  serve(app, calls.moveThings, async ({ body }) => ({ ...(await moveThings(db, person.id, body)), ...(await hand()) }));
  serve(app, calls.changeType, async ({ body }) => ({ ...(await changeType(db, person.id, body)), ...(await hand()) }));
  serve(app, calls.undoEdit, async () => {
    await undoLast(db, person.id);
    return hand();
  });
  serve(app, calls.redoEdit, async () => {
    await redoLast(db, person.id);
    return hand();
  });
  serve(app, calls.setQuantityPrices, async ({ body }) => {
    await setQuantityPrices(db, person.id, body);
    return hand();
  });
  serve(app, calls.putRule, async ({ body, looked }) => {
    await putRule(db, person.id, body, await changedFrom(db, looked));
    return hand();
  });
}

function proofRoutes(app: Hono, { db, person, queue }: AppContext): void {
  serve(app, calls.listProofs, async () => ({ proofs: await summarizeWaiting(db) }));
  serve(app, calls.getProof, async ({ params }) => ({ proof: await summarize(db, params.id) }));
  serve(app, calls.getProofLines, ({ params, query }) => proofLines(db, params.id, query));
  serve(app, calls.getProofSpread, ({ params }) => proofSpread(db, params.id));
  app.get('/api/proofs/:id/lines.csv', async (c) => {
    const { id } = parsedTexts(calls.getProofLines.params, c.req.param());
    const filter = parsedTexts(calls.getProofLines.query, c.req.query());
    const { title } = await summarize(db, id);
    return csvDownload(c, title || 'proof', proofFile(db, id, filter));
  });
  serve(app, calls.listProofFormulas, ({ params }) => listProofFormulas(db, params.id));
  serve(app, calls.setAside, async ({ body }) => ({ proof: await summarize(db, await setAside(db, person.id, body)) }));
  serve(app, calls.takeUp, async ({ params }) => {
    await takeUp(db, person.id, params.id);
    return { proof: await summarizeHand(db, person.id) };
  });
  serve(app, calls.getProofEffect, ({ params }) => goodsOfProof(db, params.id));
  serve(app, calls.getProofsBeside, async ({ params }) => ({ proofs: await proofsBeside(db, params.id) }));
  serve(app, calls.leaveOut, async ({ params, body }) => {
    const kept = await inTransaction(db, (tx) => leaveOut(tx, params.id, body));
    return { proof: await summarize(db, params.id), kept };
  });
  serve(app, calls.agreeTo, async ({ params, body }) => {
    await inTransaction(db, (tx) => agreeTo(tx, params.id, body));
    return { proof: await summarize(db, params.id) };
  });
  serve(app, calls.landProof, async ({ params }) => {
    if (!(await isLarge(db.often, params.id))) return { landing: await land(db, params.id, person.id), work: null };
    const work = await queue.add(person.id, 'land', async (tx) => {
      const title = await beginLanding(tx, params.id);
      return { title: `Landing ${title || 'the proof in hand'}`, data: { proof: params.id } };
    });
    return { landing: null, work };
  });
  serve(app, calls.discardProofs, async ({ body }) => ({ discarded: await discardMany(db, body.ids) }));
  serve(app, calls.discardProof, async ({ params }) => {
    await inTransaction(db, (tx) => discard(tx, params.id));
    return {};
  });
}

function plannedRoutes(app: Hono, { db, person }: AppContext): void {
  serve(app, calls.listPlanned, async () => ({ planned: await listPlanned(db) }));
  serve(app, calls.planProof, async ({ params, body }) => ({
    planned: await planProof(db, person.id, params.id, body),
  }));
  serve(app, calls.movePlanned, async ({ params, body }) => ({ planned: await movePlanned(db, params.id, body) }));
  serve(app, calls.callOff, async ({ params }) => {
    await callOff(db, params.id);
    return {};
  });
}

function journalRoutes(app: Hono, { db, person, queue }: AppContext): void {
  serve(app, calls.listLandings, ({ query }) => listLandings(db, query));
  serve(app, calls.listLandingTexts, async ({ query }) => ({ texts: await landingTexts(db, query.field) }));
  serve(app, calls.getLandingLines, async ({ params, query }) => ({
    landing: await getLanding(db, params.id),
    ...(await landingLines(db, params.id, query)),
  }));
  app.get('/api/journal/:id/lines.csv', async (c) => {
    const { id } = parsedTexts(calls.getLandingLines.params, c.req.param());
    const filter = parsedTexts(calls.getLandingLines.query, c.req.query());
    const { title } = await getLanding(db, id);
    return csvDownload(c, title, landingFile(db, id, filter));
  });
  serve(app, calls.noteLanding, async ({ params, body }) => {
    await noteLanding(db, params.id, body);
    return {};
  });
  serve(app, calls.takeBack, async ({ params, body: { only } }) => {
    const { title, lines } = await getLanding(db, params.id);
    if (lines <= MANY_LINES)
      return { proof: await summarize(db, await takeBack(db, person.id, params.id, { only })), work: null };
    const work = await queue.add(person.id, 'take back', () =>
      Promise.resolve({ title: `Proposing to take back ${title}`, data: { landing: params.id, only } }),
    );
    return { proof: null, work };
  });
}
