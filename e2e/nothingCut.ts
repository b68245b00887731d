import { type Page } from '@playwright/test';

/**
 * What is cut off or lies under something else on the page as it is seen now: texts and controls, each said with what is wrong.
 * What is scrolled away wholly is not cut; nor is what is half scrolled away downwards. Cells that hold a text of any length (a name) may end in
 * three dots, as a press shows the whole; numbers and codes may not.
 */
export function nothingCut(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    /** Cells that hold a text of any length, and lines that say the whole when pointed at. */
    const LONG = '.rgCell:not(.cell-number, .cell-code), [title]';
    /** The right edge of a sheet: it hides the column that would be cut. The ends of a bar are there to be dragged; a chooser lies over its own field. */
    const MEANT = 'ivory-columns-behind, .edge, .ant-select';
    /** Half a pixel on each side is rounding. */
    const SLACK = 1.5;
    const found: string[] = [];
    const report = (what: string, element: Element, text: string) => {
      const place = element.closest('[class]')?.className.toString().slice(0, 40) ?? '';
      found.push(
        `${what}: “${text.trim().replace(/\s+/g, ' ').slice(0, 60)}” (${element.tagName.toLowerCase()} .${place})`,
      );
    };

    interface Box {
      left: number;
      top: number;
      right: number;
      bottom: number;
    }
    const screen: Box = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };
    const overlap = (a: Box, b: Box): Box => ({
      left: Math.max(a.left, b.left),
      top: Math.max(a.top, b.top),
      right: Math.min(a.right, b.right),
      bottom: Math.min(a.bottom, b.bottom),
    });
    const isNothing = (box: Box) => box.right - box.left < 1 || box.bottom - box.top < 1;

    /** Through which the element is seen: the screen and all that clips; and whether the way down may be scrolled. */
    function windowOf(element: Element): { box: Box; scrollsDown: boolean } {
      let box = screen;
      let scrollsDown = false;
      let isFixed = false;
      for (let at: Element | null = element; at !== null && !isFixed; at = at.parentElement) {
        const style = getComputedStyle(at);
        isFixed = style.position === 'fixed';
        if (style.display === 'inline' || style.overflowX === 'visible') continue;
        if (/auto|scroll/.test(style.overflowY)) scrollsDown = true;
        const { left, top } = at.getBoundingClientRect();
        const inner = { left: left + at.clientLeft, top: top + at.clientTop };
        box = overlap(box, { ...inner, right: inner.left + at.clientWidth, bottom: inner.top + at.clientHeight });
      }
      return { box, scrollsDown };
    }

    const isShown = (element: Element) =>
      element.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true }) &&
      // Read to whoever cannot see.
      element.closest('.cdk-visually-hidden, .unseen, .alone') === null;

    /** Something else that is drawn over the point, or nothing. */
    function over(element: Element, x: number, y: number): Element | undefined {
      const top = document.elementFromPoint(x, y);
      if (top === null || top.contains(element) || element.contains(top)) return undefined;
      if (top.closest(MEANT) !== null || top.closest('label')?.contains(element) === true) return undefined;
      return top;
    }

    /** Cells behind the right edge of a sheet are scrolled away. */
    const underEdge = (element: Element, { left, right }: Box): boolean => {
      const edge = element.closest('.rgCell, .rgHeaderCell') && document.querySelector('ivory-columns-behind div');
      return edge !== null && (left + right) / 2 > edge.getBoundingClientRect().left;
    };

    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
      const text = node.textContent ?? '';
      const element = node.parentElement;
      if (text.trim() === '' || element === null || !isShown(element)) continue;
      const { box, scrollsDown } = windowOf(element);
      const range = document.createRange();
      range.selectNodeContents(node);
      for (const line of range.getClientRects()) {
        const seen = overlap(line, box);
        if (isNothing(seen) || isNothing(line)) continue;
        if (underEdge(element, seen)) continue;
        const isLong = element.closest(LONG) !== null;
        if (!isLong && (line.left < box.left - SLACK || line.right > box.right + SLACK))
          report('cut at the side', element, text);
        else if (!scrollsDown && (line.top < box.top - SLACK - 2 || line.bottom > box.bottom + SLACK + 2))
          report('cut above or below', element, text);
        else {
          const y = (seen.top + seen.bottom) / 2;
          for (const x of [seen.left + 2, (seen.left + seen.right) / 2, seen.right - 2]) {
            const other = getComputedStyle(element).pointerEvents === 'none' ? undefined : over(element, x, y);
            if (other === undefined) continue;
            report(`under ${other.tagName.toLowerCase()} .${other.className.toString().slice(0, 30)}`, element, text);
            break;
          }
        }
      }
    }

    for (const control of document.querySelectorAll('button, a[href], input, select, textarea, [role=button]')) {
      if (!isShown(control) || getComputedStyle(control).pointerEvents === 'none') continue;
      const { box } = windowOf(control.parentElement ?? control);
      const whole = control.getBoundingClientRect();
      const seen = overlap(whole, box);
      if (isNothing(seen) || isNothing(whole)) continue;
      const name = control.getAttribute('aria-label') ?? control.textContent;
      if (whole.left < box.left - SLACK || whole.right > box.right + SLACK)
        report('control cut at the side', control, name);
      const y = (seen.top + seen.bottom) / 2;
      for (const x of [seen.left + 3, seen.right - 3]) {
        const other = over(control, x, y);
        if (other === undefined) continue;
        report(
          `control under ${other.tagName.toLowerCase()} .${other.className.toString().slice(0, 30)}`,
          control,
          name,
        );
        break;
      }
    }
    if (document.documentElement.scrollWidth > innerWidth) found.push('the page itself scrolls sideways');
    return [...new Set(found)];
  });
}
