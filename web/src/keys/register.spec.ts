import { words } from '../words/en.ts';
import { KEY_ACTIONS, keyAction, type KeyPlace, KEYS } from './register.ts';

const press = (key: string, more: Partial<KeyboardEvent> = {}) => ({
  key,
  ctrlKey: false,
  metaKey: false,
  altKey: false,
  shiftKey: false,
  ...more,
});

describe('the register of keys', () => {
  it('says what a key does where it works, and nothing elsewhere', () => {
    expect(keyAction('everywhere', press('J'))).toBe('journal');
    expect(keyAction('everywhere', press('?', { shiftKey: true }))).toBe('help');
    expect(keyAction('workbench', press('e'))).toBe('slip');
    expect(keyAction('everywhere', press('e'))).toBeUndefined();
    expect(keyAction('cell', press('Escape'))).toBe('leave');
    expect(keyAction('tree', press('>', { shiftKey: true }))).toBe('new below');
    expect(keyAction('everywhere', press('E', { shiftKey: true }))).toBe('folio');
    expect(keyAction('workbench', press('E', { shiftKey: true }))).toBeUndefined();
  });

  it('tells keys with Ctrl from those without', () => {
    expect(keyAction('everywhere', press('z', { ctrlKey: true }))).toBe('undo');
    expect(keyAction('everywhere', press('z'))).toBeUndefined();
    expect(keyAction('everywhere', press('z', { ctrlKey: true, shiftKey: true }))).toBeUndefined();
    expect(keyAction('cell', press('d', { metaKey: true }))).toBe('fill');
    expect(keyAction('proof', press('Enter', { ctrlKey: true }))).toBe('land');
    expect(keyAction('proof', press('Enter'))).toBeUndefined();
    expect(keyAction('everywhere', press('p', { ctrlKey: true }))).toBeUndefined();
    expect(keyAction('everywhere', press('p', { altKey: true }))).toBeUndefined();
  });

  it('gives each key one meaning in a place, and has words for all', () => {
    const places: readonly KeyPlace[] = ['everywhere', 'workbench', 'proof', 'tree', 'cell', 'question', 'folio'];
    for (const place of places) {
      // What works everywhere works on the workbench and in a proof too.
      const there = KEY_ACTIONS.map((action) => KEYS[action]).filter(
        (entry) => entry.place === place || (entry.place === 'everywhere' && ['workbench', 'proof'].includes(place)),
      );
      const keys = there.flatMap((entry) =>
        entry.keys.map((key) => `${entry.ctrl ?? false} ${entry.shift ?? false} ${key}`),
      );
      expect(new Set(keys).size).withContext(place).toBe(keys.length);
    }
    for (const action of KEY_ACTIONS) expect(words.keys.actions[action]).withContext(action).not.toBe('');
  });
});
