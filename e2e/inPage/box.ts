/** A rectangle of the screen, in pixels. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

export const overlap = (a: Box, b: Box): Box => ({
  left: Math.max(a.left, b.left),
  top: Math.max(a.top, b.top),
  right: Math.min(a.right, b.right),
  bottom: Math.min(a.bottom, b.bottom),
});

export const isNothing = (box: Box): boolean => box.right - box.left < 1 || box.bottom - box.top < 1;

/** Through what an element is seen: the screen and all that clips; and whether it may be scrolled down to. */
export function windowOf(element: Element): { readonly box: Box; readonly scrollsDown: boolean } {
  let box: Box = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };
  let scrollsDown = false;
  let isFixed = false;
  for (let at: Element | null = element; at !== null && !isFixed; at = at.parentElement) {
    const style = getComputedStyle(at);
    isFixed = style.position === 'fixed';
    if (style.display === 'inline' || style.overflowX === 'visible') continue;
    scrollsDown ||= /auto|scroll/.test(style.overflowY);
    const { left: outer, top: above } = at.getBoundingClientRect();
    const [left, top] = [outer + at.clientLeft, above + at.clientTop];
    box = overlap(box, { left, top, right: left + at.clientWidth, bottom: top + at.clientHeight });
  }
  return { box, scrollsDown };
}
