/** A set of tags of products, in a slot of its own. */
export default {
  recipe: 'Add a set field',
  edits: [
    { file: 'core/src/kinds/keys.ts', behind: "    'slug',\n    'pageTitle',\n", put: "    'occasions',\n" },
    {
      file: 'core/src/kinds/words.en.ts',
      behind: "  shipsAlone: called('ships on its own'),\n",
      put: "  occasions: called('occasions', 'occasion'),\n",
    },
    {
      file: 'core/src/kinds/goodsFields.ts',
      behind: "  goods('sku', 'mpn', { type: 'text', store: column('sku', 'mpn'), longest: 70 }),\n",
      put: "  goods('product', 'occasions', { type: 'references', refersTo: { kind: 'tag' }, store: { in: 'own', slot: 'occasions' } }),\n",
    },
    { migration: 'occasions', statements: ['alter table product_own add column occasions bigint[]'] },
  ],
  spec: `
  it('is added to by a verb, asked and taken from', async () => {
    await server.call(calls.makeThings, { body: { kind: 'tag', things: [{ name: 'Wedding' }] } });
    const [row] = (await server.call(calls.answerQuestion, { body: { question: 'stock > 0' } })).rows;
    await server.land((await server.edit(row![0]!, 'occasions', 'Wedding')).id);
    expect((await server.call(calls.answerQuestion, { body: { question: 'occasions is Wedding' } })).counts.products).toBe(1);
    await server.land((await server.edit(row![0]!, 'occasions', '')).id);
    expect((await server.call(calls.answerQuestion, { body: { question: 'occasions is filled' } })).counts.skus).toBe(0);
  });
`,
};
