/** Where one types. */
type Field = HTMLInputElement | HTMLTextAreaElement;

/**
 * Keeps the keys that are pressed while the focus moves to a cell or its field opens, and presses them again when it is there: a
 * scanner, or somebody who types without looking, presses the next key before the grid has moved.
 */
export class KeyQueue {
  private readonly waiting: KeyboardEvent[] = [];
  /** Moves under way: a cell may be pressed while another is being left. */
  private moves = 0;
  /** Fields that are being opened: what is typed goes into them. */
  private opening = 0;

  /** `field` is the field that is open for typing, if any. */
  constructor(private readonly field: () => Field | null | undefined = () => undefined) {}

  /** Keeps a key back when it has to wait, and says so. Keys with Ctrl, Alt or Meta are not for a cell, but Ctrl+A is for a field. */
  holds(event: KeyboardEvent): boolean {
    const choosesAll = this.opening > 0 && isChoosingAll(event);
    const isOther = (event.ctrlKey || event.altKey || event.metaKey || event.key === 'Shift') && !choosesAll;
    if (this.moves === 0 || isOther) return false;
    event.preventDefault();
    event.stopImmediatePropagation();
    this.waiting.push(event);
    return true;
  }

  /** Holds keys until the move is over. */
  async during(move: () => Promise<void>): Promise<void> {
    this.moves++;
    try {
      await move();
    } finally {
      this.moves--;
      this.release();
    }
  }

  /** Holds keys until a field is open. */
  async whileOpening(open: () => Promise<void>): Promise<void> {
    this.opening++;
    await this.during(open);
    this.opening--;
  }

  /** Presses what waited, up to a key that moves on once more. */
  private release(): void {
    while (this.moves === 0) {
      const event = this.waiting.shift();
      if (!event) return;
      const field = this.field();
      if (field && document.activeElement === field && typeInto(field, event)) continue;
      const { key, code, shiftKey } = event;
      (field ?? document.body).dispatchEvent(
        new KeyboardEvent('keydown', { key, code, shiftKey, bubbles: true, cancelable: true }),
      );
    }
  }
}

const isChoosingAll = ({ key, ctrlKey, metaKey }: KeyboardEvent): boolean =>
  (ctrlKey || metaKey) && key.toLowerCase() === 'a';

/** Applies an editing key to a field, as a replayed key has no default action; returns whether it was one. */
function typeInto(field: Field, event: KeyboardEvent): boolean {
  const [start, end] = [field.selectionStart ?? field.value.length, field.selectionEnd ?? field.value.length];
  let inputType = 'insertText';
  if (isChoosingAll(event)) field.select();
  else if (event.key.length === 1) field.setRangeText(event.key, start, end, 'end');
  else if (event.key === 'Backspace') {
    field.setRangeText('', start === end ? Math.max(0, start - 1) : start, end, 'end');
    inputType = 'deleteContentBackward';
  } else return false;
  field.dispatchEvent(new InputEvent('input', { bubbles: true, inputType }));
  return true;
}
