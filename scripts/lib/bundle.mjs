import { join } from 'node:path';
import { root } from './paths.mjs';

/** How TypeScript of ours becomes one file for Node; packages stay outside. */
export const bundle = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  packages: 'external',
  alias: {
    '@ivory/core/rules': join(root, 'core/src/rules/index.ts'),
    '@ivory/core': join(root, 'core/src/index.ts'),
    '@ivory/contract': join(root, 'contract/src/index.ts'),
    '@ivory/demo': join(root, 'demo/src/index.ts'),
    '@ivory/server': join(root, 'server/src/index.ts'),
    '@ivory/standins/engine': join(root, 'standins/src/engine/index.ts'),
    '@ivory/standins/storefront': join(root, 'standins/src/storefront/index.ts'),
  },
  logLevel: 'warning',
};
