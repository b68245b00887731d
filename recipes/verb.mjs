/** A step that puts a text into brackets. */
export default {
  recipe: 'Add a rule step, or a guard',
  edits: [
    { file: 'core/src/rules/step.ts', behind: "'change case', 'tidy', 'cut'", put: ", 'bracket'" },
    {
      create: 'core/src/rules/steps/bracket.ts',
      text: `import { isEditable } from '../../kinds/field.ts';
import { stepKind } from '../step.ts';
import { hasWords, onWords } from '../parts/text.ts';

/** Puts a text into brackets. */
export const bracket = stepKind({
  sentence: 'bracket {field}',
  slots: {},
  takes: (field) => isEditable(field) && hasWords(field) && field.type !== 'code',
  prepare: (field, _slots, asking) => onWords(field, asking, (text) => \`(\${text})\`),
});
`,
    },
    {
      file: 'core/src/rules/steps/index.ts',
      behind: "import { add } from './add.ts';\n",
      put: "import { bracket } from './bracket.ts';\n",
    },
    { file: 'core/src/rules/steps/index.ts', behind: '  tidy,\n  cut,\n', put: '  bracket,\n' },
    { file: 'web/src/words/rule.en.ts', behind: "    tidy: 'tidy',\n", put: "    bracket: 'put into brackets',\n" },
    { file: 'web/src/rule/newStep.ts', behind: "  tidy: 'texts',\n", put: "  bracket: 'texts',\n" },
  ],
  spec: `
  it('is read from its sentence and changes the names of a set', async () => {
    const rule = await server.rule('bracket name');
    const { proof, work } = await server.call(calls.putRule, { body: { question: 'in Ink', title: 'Brackets', rule } });
    const id = proof?.id ?? (await server.finished(work!)).result!;
    await server.land(id);
    expect((await server.call(calls.answerQuestion, { body: { question: 'in Ink not name starts with "("' } })).counts.skus).toBe(0);
  });
`,
};
