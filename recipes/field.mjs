/** A field of SKUs: how many months goods keep. */
export default {
  recipe: 'Add a field',
  edits: [
    { file: 'core/src/kinds/keys.ts', behind: "    'netWeight',\n", put: "    'shelfLife',\n" },
    {
      file: 'core/src/kinds/words.en.ts',
      behind: "  netWeight: called('net weight'),\n",
      put: "  shelfLife: called('shelf life', 'keeps for'),\n",
    },
    {
      file: 'core/src/kinds/goodsFields.ts',
      behind: "  goods('sku', 'netWeight', { ...HIDDEN, type: 'grams', store: column('sku', 'net_g') }),\n",
      put: "  goods('sku', 'shelfLife', { type: 'count', store: column('sku', 'shelf_life') }),\n",
    },
    {
      migration: 'shelf_life',
      statements: ['alter table sku add column shelf_life integer check (shelf_life >= 0)'],
    },
  ],
  spec: `
  it('is typed, landed, asked and taken back', async () => {
    const [row] = (await server.call(calls.answerQuestion, { body: { question: 'stock > 0' } })).rows;
    const landing = await server.land((await server.edit(row![0]!, 'shelfLife', '18')).id);
    expect((await server.call(calls.answerQuestion, { body: { question: 'shelf life > 17' } })).counts.skus).toBe(1);
    await server.land((await server.takeBack(landing)).id);
    expect((await server.call(calls.answerQuestion, { body: { question: 'shelf life is filled' } })).counts.skus).toBe(0);
  });
`,
};
