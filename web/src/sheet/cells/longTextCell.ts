/** Where a long text is edited, and what becomes of it. */
interface LongText {
  readonly cell: DOMRect;
  readonly label: string;
  readonly text: string;
  /** What stands there was typed just now, and is gone on with. */
  readonly isTyped: boolean;
  /** It is taken, by a key that may lead on, or by leaving it. */
  readonly taken: (text: string, key: KeyboardEvent | undefined) => void;
  readonly left: () => void;
}

const WIDTH = 360;
const HEIGHT = 170;

/** A text of several lines over its cell: Enter takes it, Alt+Enter begins a new line, Escape leaves it as it was. */
export class LongTextCell {
  /** Where one types, while it is open. */
  area: HTMLTextAreaElement | undefined;

  constructor(private readonly host: () => HTMLElement) {}

  get isOpen(): boolean {
    return this.area !== undefined;
  }

  open({ cell, label, text, isTyped, taken, left }: LongText): void {
    const host = this.host();
    const around = host.getBoundingClientRect();
    const area = document.createElement('textarea');
    area.className = 'long-text';
    area.setAttribute('aria-label', label);
    area.value = text;
    Object.assign(area.style, {
      left: `${Math.max(0, Math.min(cell.left - around.left, around.width - WIDTH - 8))}px`,
      top: `${Math.max(0, Math.min(cell.top - around.top, around.height - HEIGHT - 8))}px`,
      width: `${Math.max(WIDTH, cell.width)}px`,
      height: `${HEIGHT}px`,
    });
    this.area = area;
    const close = (then: () => void) => {
      if (this.area !== area) return;
      this.area = undefined;
      area.remove();
      then();
    };
    area.addEventListener('keydown', (event) => {
      // The grid would take each key for one of its own.
      event.stopPropagation();
      if (event.isComposing) return;
      if (event.key === 'Escape') close(left);
      else if (event.key === 'Tab' || (event.key === 'Enter' && !event.altKey && !event.shiftKey)) {
        event.preventDefault();
        close(() => taken(area.value, event));
      } else if (event.key === 'Enter') {
        event.preventDefault();
        area.setRangeText('\n', area.selectionStart, area.selectionEnd, 'end');
      }
    });
    area.addEventListener('blur', () => close(() => taken(area.value, undefined)));
    host.append(area);
    area.focus();
    if (isTyped) area.setSelectionRange(text.length, text.length);
    else area.select();
  }
}
