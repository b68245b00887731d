/**
 * Keys that come while one cell is being left for another wait until the next one is there, and are pressed again then:
 * people who type without looking, and scanners, are faster than the grid moves.
 */
export class KeyQueue {
  private readonly waiting: KeyboardEvent[] = [];
  private moving = false;

  /** Keeps a key back when it has to wait, and says so. Keys with Ctrl, Alt or Meta are not for a cell. */
  holds(event: KeyboardEvent): boolean {
    if (!this.moving || event.ctrlKey || event.altKey || event.metaKey || event.key === 'Shift') return false;
    event.preventDefault();
    event.stopImmediatePropagation();
    this.waiting.push(event);
    return true;
  }

  /** Holds keys until the move is over. */
  async during(move: () => Promise<void>): Promise<void> {
    this.moving = true;
    try {
      await move();
    } finally {
      this.moving = false;
      this.release();
    }
  }

  /** Presses what waited, up to a key that moves on once more. */
  private release(): void {
    while (!this.moving) {
      const event = this.waiting.shift();
      if (!event) return;
      const { key, code, shiftKey } = event;
      document.body.dispatchEvent(
        new KeyboardEvent('keydown', { key, code, shiftKey, bubbles: true, cancelable: true }),
      );
    }
  }
}
