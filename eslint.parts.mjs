import { readdirSync } from 'node:fs';
import { posix } from 'node:path';

/**
 * The order of the parts of a package, from the ones that know nothing of the others to those that know most. A part imports only
 * those before it; parts that stand in one entry, divided by a blank, may know one another. `docs/architecture.md` says why.
 */
export const PARTS_IN_ORDER = {
  'core/src': [
    'problems',
    'words',
    'moments',
    'money',
    'prices',
    'stock',
    'codes',
    'categories',
    'variants',
    // A field has a value type, a value is read with the fields of the shop, and a question is a value as well.
    'kinds values question',
    'gaps',
    'feeds',
    'changes',
    'rules',
    'tables',
  ],
  'server/src': [
    'db',
    'jobs',
    'pictures',
    'frames',
    'asked',
    'changes/stores',
    'changes/proof',
    'changes/examine',
    'changes/lookedThrough',
    'changes/journal',
    'changes/propose',
    'changes/land',
    'changes/planned',
    'kept',
    'rules',
    'things',
    'prices',
    'range',
    'exchange',
    'outlets',
    'shop',
    'http',
  ],
  'web/src': [
    'keys',
    'words',
    'api',
    'state',
    'theme',
    'charts',
    'pictures',
    'history',
    'planned',
    'exchange',
    'sheet',
    'question',
    'slip',
    'proof',
    'rule',
    'lists',
    'folio',
    'spine',
    'workbench',
    'desks',
    'journal',
    'frame',
  ],
};

/** Folders of the parts with their own folders, by their paths below the root. */
const foldersBelow = (root, folder) => [
  folder,
  ...readdirSync(posix.join(root, folder), { withFileTypes: true })
    .filter((entry) => entry.isDirectory())
    .flatMap(({ name }) => foldersBelow(root, posix.join(folder, name))),
];

const escaped = (text) => text.replaceAll('.', '\\.');

/** For each folder below a root: which files lie in it, and the pattern of what they may not import. */
export function laterParts(root) {
  const order = PARTS_IN_ORDER[root].map((entry) => entry.split(' '));
  return order.flatMap((entry, i) => {
    const later = order.slice(i + 1).flat();
    if (later.length === 0) return [];
    return entry.flatMap((part) =>
      foldersBelow(root, part).map((folder) => ({
        files: [`${root}/${folder}/*.ts`],
        pattern: {
          regex: later.map((other) => `^${escaped(posix.relative(folder, other))}/`).join('|'),
          message: `${part} stands before that part in eslint.parts.mjs.`,
        },
      })),
    );
  });
}
