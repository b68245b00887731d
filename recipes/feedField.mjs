/** The manufacturer's part number, `mpn` of schema.org. */
export default {
  recipe: 'Add a feed field',
  edits: [
    { file: 'core/src/feeds/profile.ts', behind: "    'brand',\n    'gtin',\n", put: "    'mpn',\n" },
    {
      file: 'core/src/feeds/profile.ts',
      behind:
        "  gtin: { level: 'SKU', need: 'required', gaps: ['no GTIN', 'wrong GTIN'], fill: (item) => item.gtin },\n",
      put: "  mpn: { level: 'SKU', need: 'advised', longest: 70, gaps: [], fill: (item) => item.mpn },\n",
    },
    {
      file: 'core/src/feeds/item.ts',
      behind: '  readonly gtin: string | null;\n',
      put: '  readonly mpn: string | null;\n',
    },
    {
      file: 'core/src/feeds/feeds.spec.ts',
      behind: "      's:gtin': '9506000134352',\n",
      put: "      's:mpn': 'HP-77',\n",
    },
    { file: 'core/src/feeds/feeds.spec.ts', behind: "  gtin: '9506000134352',\n", put: "  mpn: 'HP-77',\n" },
    { file: 'server/src/outlets/feedItems.ts', behind: '  content: sql`sk.content`,\n', put: '  mpn: sql`sk.mpn`,\n' },
    {
      file: 'server/src/outlets/feedItems.ts',
      behind: "      gtin: cell('gtin'),\n",
      put: "      mpn: cell('mpn'),\n",
    },
  ],
  spec: `
  it('is in the file under its name once an outlet has one for it, and not before', async () => {
    const { outlets } = await server.call(calls.getOutlets);
    const { id, settings, ready } = outlets[0]!;
    const [row] = (await server.call(calls.answerQuestion, { body: { question: ready.question } })).rows;
    await server.land((await server.edit(row![0]!, 'mpn', 'HP-77')).id);
    const file = async () => (await server.fetch('/api/outlets/' + id + '/file')).text();
    expect(await file()).not.toContain('HP-77');
    const names = { ...settings.names, mpn: 'partNumber' };
    await server.call(calls.setOutlet, { params: { id }, body: { ...settings, names } });
    expect(await file()).toContain('partNumber>HP-77<');
  });
`,
};
