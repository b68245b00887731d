import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './paths.mjs';

/** The specs that hold something by random cases: those that load fast-check. */
export function propertySpecs() {
  const folders = ['core/src', 'contract/src', 'server/src', 'standins/src', 'demo/src', 'bench/src'];
  return folders.flatMap((folder) =>
    readdirSync(join(root, folder), { recursive: true })
      .filter((name) => name.endsWith('.spec.ts'))
      .map((name) => join(folder, name))
      .filter((path) => /from 'fast-check'|merchantActs/.test(readFileSync(join(root, path), 'utf8'))),
  );
}
