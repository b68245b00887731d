/**
 * Names the grid's parts for assistive tools: the package calls its whole box a grid, with its maker's link in it, and
 * leaves rows and scroller without a role. What it says of itself moves to the box that holds rows alone.
 */
export function nameParts(grid: HTMLElement, label: string): void {
  const inner = grid.querySelector('.viewports');
  if (!inner) return;
  grid.setAttribute('role', 'group');
  inner.setAttribute('role', 'grid');
  inner.setAttribute('aria-label', label);
  for (const name of ['aria-colcount', 'aria-rowcount', 'aria-multiselectable']) {
    const value = grid.getAttribute(name);
    if (value !== null) inner.setAttribute(name, value);
    grid.removeAttribute(name);
  }
  grid.querySelectorAll('.header-rgRow').forEach((row) => row.setAttribute('role', 'row'));
  grid.querySelectorAll('.vertical-inner').forEach((scroller) => {
    scroller.setAttribute('role', 'rowgroup');
    scroller.setAttribute('tabindex', '0');
  });
}
