import { build } from 'esbuild';
import { renameSync } from 'node:fs';
import { join } from 'node:path';
import { bundle } from './lib/bundle.mjs';
import { builtServer, root } from './lib/paths.mjs';

// Built beside and moved into place, so that a start of another process never reads half a file.
const draft = builtServer.replace(/\.mjs$/, '.draft.mjs');
await build({ ...bundle, entryPoints: [join(root, 'demo/src/main.ts')], outfile: draft });
renameSync(draft, builtServer);
