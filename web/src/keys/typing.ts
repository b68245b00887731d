/** Whether a key pressed there is text: single-letter keys never fire then. A focused cell of the sheet takes text too. */
export function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable ||
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
      target.closest('.cdk-overlay-container') !== null)
  );
}
