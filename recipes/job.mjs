/** Work that counts the goods. */
export default {
  recipe: 'Add a job',
  edits: [
    {
      file: 'contract/src/schemas.ts',
      behind: "  kind: z.enum(['import', 'land', 'take back', 'deliver', 'pictures'",
      put: ", 'count'",
    },
    {
      file: 'server/src/db/tables.ts',
      behind: "    kind: 'import' | 'land' | 'take back' | 'deliver' | 'pictures'",
      put: " | 'count'",
    },
    {
      create: 'server/src/jobs/countGoods.ts',
      text: `import { sql } from 'kysely';
import { type Db } from '../db/connect.ts';
import { type Handler } from './queue.ts';

/** Counts the goods, as work that a recipe makes. */
export const countWork = (db: Db): Handler => ({
  perform: async () => {
    const { rows } = await sql<{ n: string }>\`select count(*)::text as n from sku\`.execute(db.q);
    return { note: rows[0]!.n };
  },
});
`,
    },
    {
      file: 'server/src/startServer.ts',
      behind: "import { Origins } from './http/onlyOurPages.ts';\n",
      put: "import { countWork } from './jobs/countGoods.ts';\n",
    },
    {
      file: 'server/src/startServer.ts',
      behind: '      pictures: renderWork(db, files),\n',
      put: '      count: countWork(db),\n',
    },
  ],
};
