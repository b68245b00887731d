import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
/** What the shop keeps: database, pictures, files. Never part of the repository. */
export const dataFolder = process.env.IVORY_DATA ?? join(root, 'data');
/** What can be made anew at any time. */
export const cacheFolder = join(root, '.cache');
export const builtWeb = join(root, 'dist', 'web', 'browser');
export const builtServer = join(root, 'dist', 'server.mjs');
