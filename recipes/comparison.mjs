/** Whether a text lacks some words. */
export default {
  recipe: 'Add a comparison',
  edits: [
    { file: 'core/src/question/tree.ts', behind: "  'is like',\n", put: "  'lacks',\n" },
    {
      file: 'core/src/question/comparisonTable.ts',
      behind: "  'is like': { ...PART, ofFilled: anyBy('is like'), ofTexts: isLike },\n",
      put: "  lacks: { ...PART, ofFilled: anyBy('lacks'), ofTexts: (value, wanted) => !value.includes(wanted) },\n",
    },
    { file: 'server/src/db/sql/questionSql.ts', behind: "  'is like': anyOf,\n", put: '  lacks: anyOf,\n' },
    {
      file: 'server/src/db/sql/comparisonsSql.ts',
      behind: "  'is like': (text, wanted) => sql<boolean>`is_like(${text}, ${wanted})`,\n",
      put: '  lacks: (text, wanted) => sql<boolean>`${text} not like ${like(wanted, { before: true, behind: true })}`,\n',
    },
    {
      file: 'core/src/values/comparing.ts',
      behind: "export const OF_TEXT = [...EQUALITY, 'contains', ",
      put: "'lacks', ",
    },
  ],
  spec: `
  it('is asked, and is the opposite of contains', async () => {
    const skus = async (question: string) => (await server.call(calls.answerQuestion, { body: { question } })).counts.skus;
    expect(await skus('name lacks ink')).toBe((await skus('name is filled')) - (await skus('name contains ink')));
  });
`,
};
