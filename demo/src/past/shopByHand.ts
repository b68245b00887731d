import { type Call, type CallInput, calls, type Import, type ProofSummary, requestOf } from '@ivory/contract';
import { asksFor, type FieldKey, type KindKey } from '@ivory/core';
import { parseRule, readRule } from '@ivory/core/rules';
import { type Db, readShop } from '@ivory/server';

/** What is typed: into which field of which thing. */
export type TypedCell = readonly [kind: KindKey, id: string, field: FieldKey, text: string];

const SOON_MS = 50;

/** A running shop as its merchandiser uses it: everything is proposed and landed over HTTP, as the interface does it. */
export class ShopByHand {
  constructor(
    private readonly address: string,
    private readonly db: Db,
  ) {}

  /** Makes a call of the contract; throws what the server refuses. */
  async call<Params, Query, Body, Answer, Sent>(
    call: Call<Params, Query, Body, Answer, Sent>,
    input: CallInput<Params, Sent> = {},
  ): Promise<Answer> {
    const { address, init } = requestOf(call, input);
    const response = await fetch(this.address + address, init);
    if (!response.ok) throw new Error(`${address}: ${await response.text()}`);
    return call.answer.parse(await response.json());
  }

  /** Codes and ids of SKUs that answer a question, the first of them by code. */
  async skus(question: string, most: number): Promise<{ id: string; code: string; product: string }[]> {
    const body = { question, sort: { field: 'code' as const, down: false } };
    const { columns, rows } = await this.call(calls.answerQuestion, { body });
    const code = 3 + columns.indexOf('code');
    return rows.slice(0, most).map((row) => ({ id: row[0]!, product: row[1]!, code: row[code]! }));
  }

  /** Types cells and lands them. Gives the landing. */
  async type(title: string, cells: readonly TypedCell[], note?: string): Promise<string> {
    const edits = cells.map(([kind, id, field, text]) => ({ kind, id, field, text }));
    const { proof } = await this.call(calls.editCells, { body: { title, edits } });
    return this.land(proof!, title, note);
  }

  /** Puts a rule, as it is typed, into the proof in hand. */
  async propose(title: string, question: string, sentence: string): Promise<ProofSummary> {
    const asking = await readShop(this.db);
    const draft = parseRule(sentence, asking);
    const rule = draft.ok ? readRule(draft.value, asking) : undefined;
    if (!rule) throw new Error(`This is no rule: ${sentence}`);
    const { proof } = await this.call(calls.putRule, { body: { question, title, rule } });
    return proof!;
  }

  /** Puts a rule into the proof and lands it. Gives the landing. */
  async rule(title: string, question: string, sentence: string, note?: string): Promise<string> {
    return this.land(await this.propose(title, question, sentence), title, note);
  }

  /** Agrees to what asks for it, lands, and gives the landing its name. */
  async land(proof: ProofSummary, name: string, note = ''): Promise<string> {
    for (const { warning } of proof.warnings)
      if (asksFor(warning))
        await this.call(calls.agreeTo, { params: { id: proof.id }, body: { warning, agreed: true } });
    const { landing, work } = await this.call(calls.landProof, { params: { id: proof.id } });
    const id = landing ?? (await this.finished(work!.id));
    await this.call(calls.noteLanding, { params: { id }, body: { name, note } });
    return id;
  }

  /** Takes a landing back. */
  async takeBack(landing: string, name: string, note: string): Promise<void> {
    const { proof, work } = await this.call(calls.takeBack, { params: { id: landing } });
    const id = proof?.id ?? (await this.finished(work!.id));
    await this.land((await this.call(calls.getProof, { params: { id } })).proof, name, note);
  }

  /** Brings a file in, its headings as they were matched, and lands what it changes. */
  async bringIn(fileName: string, text: string, name: string): Promise<void> {
    const headers = { 'content-type': 'application/octet-stream', 'x-file-name': encodeURIComponent(fileName) };
    const sent = await fetch(`${this.address}/api/imports`, { method: 'POST', body: text, headers });
    const { id, columns, decimalSign } = (await sent.json()) as Import;
    const body = { columns: columns.map(({ field }) => field), decimalSign, makeProducts: false, makeNames: false };
    const { work } = await this.call(calls.readImport, { params: { id }, body });
    const { proof } = await this.call(calls.getProof, { params: { id: await this.finished(work.id) } });
    await this.land(proof, name);
  }

  /** A shopper orders one or two of each of the first goods that answer a question and can be had. */
  async order(question: string, pieces: readonly number[], country: string | null = 'GB'): Promise<void> {
    const goods = await this.skus(`${question} stock > 4 stage is "On sale"`, pieces.length);
    const lines = goods.map(({ code }, at) => ({ code, quantity: pieces[at]! }));
    await this.call(calls.placeOrder, { body: { key: `past ${question} ${country}`, lines, country } });
  }

  private async finished(id: string): Promise<string> {
    for (;;) {
      const { state, result, note } = await this.call(calls.getWork, { params: { id } });
      if (state === 'done') return result!;
      if (state !== 'waiting' && state !== 'running') throw new Error(`Work ${state}: ${note ?? ''}`);
      await new Promise((go) => setTimeout(go, SOON_MS));
    }
  }
}
