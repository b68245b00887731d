import { type Box, isNothing, overlap, windowOf } from './box.ts';

/** Cells that hold a text of any length, and lines that say the whole when pointed at. */
const LONG = '.rgCell:not(.cell-number, .cell-code), [title]';
/** What lies over something on purpose: the edge of a sheet over the column that would be cut, the ends of a bar, a chooser over its own field. */
const MEANT = 'ivory-columns-behind, .edge, .ant-select';
/** Read to whoever cannot see. */
const UNSEEN = '.cdk-visually-hidden, .visually-hidden, .alone';
const CONTROLS = 'button, a[href], input, select, textarea, [role=button]';
/** Rounding, in pixels; and how far the signs of a font stand out above and below their line. */
const SLACK = 1.5;
const STANDS_OUT = 2;

/** Something that is wrong with an element, in words for whoever mends it. */
const said = (what: string, element: Element, text: string): string =>
  `${what}: “${text.trim().replace(/\s+/g, ' ').slice(0, 60)}” (${element.tagName.toLowerCase()} .${element.className})`;

const isShown = (element: Element): boolean =>
  element.checkVisibility({ opacityProperty: true, visibilityProperty: true, contentVisibilityAuto: true }) &&
  element.closest(UNSEEN) === null;

/** What else is drawn over one of some points of an element, from left to right in the middle of what is seen of it. */
function over(element: Element, { top, bottom }: Box, places: readonly number[]): string | undefined {
  if (getComputedStyle(element).pointerEvents === 'none') return undefined;
  for (const x of places) {
    const upper = document.elementFromPoint(x, (top + bottom) / 2);
    if (upper === null || upper.contains(element) || element.contains(upper)) continue;
    if (upper.closest(MEANT) !== null || upper.closest('label')?.contains(element) === true) continue;
    return `${upper.tagName.toLowerCase()} .${upper.className}`;
  }
  return undefined;
}

/** Cells behind the right edge of a sheet are scrolled away. */
function isBehindEdge(element: Element, { left, right }: Box): boolean {
  const edge = element.closest('.rgCell, .rgHeaderCell') && document.querySelector('ivory-columns-behind div');
  return edge !== null && (left + right) / 2 > edge.getBoundingClientRect().left;
}

/** What is wrong with a line of a text. */
function wrongWithLine(element: Element, text: string, line: Box): string | undefined {
  const { box, scrollsDown } = windowOf(element);
  const seen = overlap(line, box);
  if (isNothing(line) || isNothing(seen) || isBehindEdge(element, seen)) return undefined;
  const isCut = line.left < box.left - SLACK || line.right > box.right + SLACK;
  if (isCut && element.closest(LONG) === null) return said('cut at the side', element, text);
  const slack = SLACK + STANDS_OUT;
  if (!scrollsDown && (line.top < box.top - slack || line.bottom > box.bottom + slack))
    return said('cut above or below', element, text);
  const upper = over(element, seen, [seen.left + 2, (seen.left + seen.right) / 2, seen.right - 2]);
  return upper === undefined ? undefined : said(`under ${upper}`, element, text);
}

function* texts(): Generator<string | undefined> {
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
    const { textContent: text, parentElement: element } = node;
    if (text === null || text.trim() === '' || element === null || !isShown(element)) continue;
    const range = document.createRange();
    range.selectNodeContents(node);
    for (const line of range.getClientRects()) yield wrongWithLine(element, text, line);
  }
}

function* controls(): Generator<string | undefined> {
  for (const control of document.querySelectorAll(CONTROLS)) {
    if (!isShown(control)) continue;
    const { box } = windowOf(control.parentElement ?? control);
    const whole = control.getBoundingClientRect();
    const seen = overlap(whole, box);
    if (isNothing(whole) || isNothing(seen)) continue;
    const name = control.getAttribute('aria-label') ?? control.textContent;
    const isCut = whole.left < box.left - SLACK || whole.right > box.right + SLACK;
    if (isCut) yield said('control cut at the side', control, name);
    const upper = over(control, seen, [seen.left + 3, seen.right - 3]);
    if (upper !== undefined) yield said(`control under ${upper}`, control, name);
  }
}

/** All that is cut off or lies under something else on the page. */
export function whatIsCut(): string[] {
  const found = [...texts(), ...controls()].filter((one) => one !== undefined);
  if (document.documentElement.scrollWidth > innerWidth) found.push('the page itself scrolls sideways');
  return [...new Set(found)];
}
