/**
 * Keeps the keys that are pressed while the focus moves to a cell, and presses them again when it is there: a scanner, or
 * somebody who types without looking, presses the next key before the grid has moved.
 */
export class KeyQueue {
  private readonly waiting: KeyboardEvent[] = [];
  /** Moves under way: a cell may be pressed while another is being left. */
  private moves = 0;

  /** Keeps a key back when it has to wait, and says so. Keys with Ctrl, Alt or Meta are not for a cell. */
  holds(event: KeyboardEvent): boolean {
    if (this.moves === 0 || event.ctrlKey || event.altKey || event.metaKey || event.key === 'Shift') return false;
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

  /** Presses what waited, up to a key that moves on once more. */
  private release(): void {
    while (this.moves === 0) {
      const event = this.waiting.shift();
      if (!event) return;
      const { key, code, shiftKey } = event;
      document.body.dispatchEvent(
        new KeyboardEvent('keydown', { key, code, shiftKey, bubbles: true, cancelable: true }),
      );
    }
  }
}
