import { getMimeType } from 'hono/utils/mime';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

/** A file of the built web: its bytes, what they are, and how long a browser may keep them. */
export interface WebFile {
  readonly body: Uint8Array<ArrayBuffer>;
  readonly headers: Readonly<Record<string, string>>;
}

const YEAR = 'public, max-age=31536000, immutable';

/**
 * The built web by path, read once: it is a few megabytes, does not change while the server runs, and is what everybody
 * waits for first. A build that is replaced meanwhile is not mixed with this one.
 */
export function readWeb(root: string): ReadonlyMap<string, WebFile> {
  const files = new Map<string, WebFile>();
  for (const entry of readdirSync(root, { recursive: true, withFileTypes: true })) {
    if (!entry.isFile()) continue;
    const file = join(entry.parentPath, entry.name);
    const path = file.slice(root.length).replaceAll('\\', '/');
    files.set(path.startsWith('/') ? path : `/${path}`, {
      body: new Uint8Array(readFileSync(file)),
      headers: {
        'content-type': getMimeType(entry.name) ?? 'application/octet-stream',
        // Built files carry their content's hash in their names; the page that names them is asked for anew.
        'cache-control': /-[A-Z0-9]{8}\.\w+$/.test(entry.name) ? YEAR : 'no-cache',
      },
    });
  }
  return files;
}
