/** What a key does. Words for each stand with the other words. */
export const KEY_ACTIONS = [
  ...([
    'ask',
    'into sheet',
    'by hand',
    'range',
    'prices',
    'stock',
    'findability',
    'outlets',
    'slip',
    'rows of',
    'rule',
    'proof',
  ] as const),
  ...([
    'land',
    'journal',
    'lists',
    'moment',
    'folio',
    'new product',
    'previous product',
    'next product',
    'fold',
    'edit',
    'change by',
    'ends of row',
    'choose block',
    'fill',
    'fill right',
    'fill all',
    'find',
    'leave out',
    'menu',
    'copy',
    'undo',
    'redo',
  ] as const),
  ...([
    'rename branch',
    'new beside',
    'new below',
    'move branch',
    'choose branch',
    'choose below',
    'delete branch',
  ] as const),
  ...(['leave', 'help'] as const),
] as const;
export type KeyAction = (typeof KEY_ACTIONS)[number];

/** Where a key works: everywhere but where one types, on the workbench, in a proof, in the tree of the spine, on a folio, or while a cell of the sheet has the keys. */
export type KeyPlace = 'everywhere' | 'workbench' | 'proof' | 'tree' | 'cell' | 'question' | 'folio';

interface KeyEntry {
  readonly place: KeyPlace;
  /** As it is written for people. */
  readonly shown: string;
  /** As `KeyboardEvent.key` says it, letters in lower case; none for what is handled where it is typed. */
  readonly keys: readonly string[];
  /** Together with Ctrl (or the command key). */
  readonly ctrl?: true;
  /** Together with Shift, or without it; where nothing is said the key alone decides, as for `?`. */
  readonly shift?: boolean;
}

const alone = (place: KeyPlace, key: string, shown = key.toUpperCase()): KeyEntry => ({ place, shown, keys: [key] });
const withCtrl = (place: KeyPlace, key: string, shown: string): KeyEntry => ({
  ...alone(place, key, shown),
  ctrl: true,
});
/** A key that the question line or the sheet handles itself: it is listed here so that the help tells of it. */
const told = (place: KeyPlace, shown: string): KeyEntry => ({ place, shown, keys: [] });

/** Every key of the application, in the order in which the help shows them. Handling and help are both made from it. */
export const KEYS: Readonly<Record<KeyAction, KeyEntry>> = {
  ask: alone('everywhere', '/'),
  'into sheet': told('question', '↓'),
  'by hand': told('question', '+ code, - code'),
  range: alone('everywhere', '1'),
  prices: alone('everywhere', '2'),
  stock: alone('everywhere', '3'),
  findability: alone('everywhere', '4'),
  outlets: alone('everywhere', '5'),
  slip: { ...alone('workbench', 'e'), shift: false },
  'rows of': alone('workbench', 's'),
  folio: { ...alone('everywhere', 'e', 'Shift+E'), shift: true },
  'new product': alone('everywhere', 'n'),
  'previous product': alone('folio', '['),
  'next product': alone('folio', ']'),
  rule: alone('everywhere', 'r'),
  proof: alone('everywhere', 'p'),
  land: withCtrl('proof', 'enter', 'Ctrl+Enter'),
  journal: alone('everywhere', 'j'),
  lists: alone('everywhere', 'l'),
  moment: alone('everywhere', 'm'),
  fold: told('cell', 'Alt+↓, Alt+↑'),
  edit: { place: 'cell', shown: 'F2, Enter', keys: ['f2', 'enter'] },
  'change by': told('cell', '+10 %, *1.1, +10'),
  'ends of row': told('cell', 'Home, End'),
  'choose block': told('cell', 'Shift + a move'),
  fill: withCtrl('cell', 'd', 'Ctrl+D'),
  'fill right': withCtrl('cell', 'r', 'Ctrl+R'),
  'fill all': told('cell', 'Ctrl+Enter'),
  find: withCtrl('cell', 'h', 'Ctrl+H'),
  'leave out': withCtrl('cell', 'delete', 'Ctrl+Delete'),
  menu: told('cell', 'Shift+F10, Menu'),
  copy: told('cell', 'Ctrl+C, Ctrl+V'),
  undo: withCtrl('everywhere', 'z', 'Ctrl+Z'),
  redo: withCtrl('everywhere', 'y', 'Ctrl+Y'),
  'rename branch': alone('tree', 'f2'),
  'new beside': alone('tree', '+'),
  'new below': alone('tree', '>'),
  'move branch': told('tree', 'Alt+↑ ↓ ← →'),
  'choose branch': { ...alone('tree', ' ', 'Space'), shift: false },
  'choose below': { ...alone('tree', ' ', 'Shift+Space'), shift: true },
  'delete branch': alone('tree', 'delete', 'Delete'),
  leave: { place: 'cell', shown: 'Esc', keys: ['escape'] },
  help: alone('everywhere', '?'),
};

type Pressed = Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>;

/** What a key does in a place; undefined when nothing. With Alt no key of ours works; with Ctrl and Shift none does. */
export function keyAction(
  place: KeyPlace,
  { key, ctrlKey, metaKey, altKey, shiftKey }: Pressed,
): KeyAction | undefined {
  const ctrl = ctrlKey || metaKey;
  if (altKey || (ctrl && shiftKey)) return undefined;
  return KEY_ACTIONS.find((action) => {
    const entry = KEYS[action];
    if (entry.shift !== undefined && entry.shift !== shiftKey) return false;
    return entry.place === place && (entry.ctrl ?? false) === ctrl && entry.keys.includes(key.toLowerCase());
  });
}
