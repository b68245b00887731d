import { build } from 'esbuild';
import { renameSync } from 'node:fs';
import { join } from 'node:path';
import { builtServer, root } from './lib/paths.mjs';

const draft = builtServer.replace(/\.mjs$/, '.draft.mjs');
await build({
  entryPoints: [join(root, 'demo/src/main.ts')],
  outfile: draft,
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: {
    '@ivory/core': join(root, 'core/src/index.ts'),
    '@ivory/contract': join(root, 'contract/src/index.ts'),
    '@ivory/server': join(root, 'server/src/index.ts'),
    '@ivory/standins/engine': join(root, 'standins/src/engine/index.ts'),
    '@ivory/standins/storefront': join(root, 'standins/src/storefront/index.ts'),
  },
  logLevel: 'warning',
});
renameSync(draft, builtServer);
