import { createHash } from 'node:crypto';
import { existsSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = dirname(dirname(dirname(fileURLToPath(import.meta.url))));

const isRoot = process.getuid?.() === 0;
/** Where Debian keeps what services keep; each clone that needs it has a folder there. */
const SERVICES = '/var/lib/ivory-shelf';

/** Whether every user may pass through a folder and all above it, or through what there is of them. */
function othersMayEnter(path) {
  for (let folder = path; ; folder = dirname(folder)) {
    if (existsSync(folder) && (statSync(folder).mode & 0o001) === 0) return false;
    if (folder === dirname(folder)) return true;
  }
}

/** Whether PostgreSQL, which runs as another user where root starts it, can have its data in a folder. */
export const postgresMayEnter = (path) => !isRoot || process.env.DATABASE_URL !== undefined || othersMayEnter(path);

function placeOfData() {
  if (process.env.IVORY_DATA) return process.env.IVORY_DATA;
  // A shop of one's own stands beside the demo shop, and neither is taken for the other.
  const own = process.argv.includes('--empty') ? '-own' : '';
  const here = join(root, `data${own}`);
  // A shop that is there already stays: whoever closed its folder is told so, and does not find another shop in its place.
  if (postgresMayEnter(here) || existsSync(join(here, 'postgres'))) return here;
  return join(SERVICES, `${basename(root)}-${createHash('sha256').update(root).digest('hex').slice(0, 8)}${own}`);
}

/**
 * What the shop keeps: database, pictures, files. Never part of the repository: `data` in the clone, or, where root starts it in a folder that
 * others may not enter, a folder below /var/lib/ivory-shelf. Both end in `-own` for a shop that was begun with `--empty`.
 */
export const dataFolder = placeOfData();
/** Where throwaway clusters lie. */
export const temporaryFolder = postgresMayEnter(tmpdir()) ? tmpdir() : '/tmp';
/** What can be made anew at any time. */
export const cacheFolder = join(root, '.cache');
export const builtWeb = join(root, 'dist', 'web', 'browser');
export const builtServer = join(root, 'dist', 'server.mjs');
