import { loadGrid } from './grid.ts';

/** What of the grid package is used here; nothing else of it is known outside this folder. */
export type Grid = HTMLElementTagNameMap['revo-grid'];

/** Makes the grid, whose package is loaded for the first of them. */
export async function makeGrid(label: string, rowSize: number): Promise<Grid> {
  const { defineCustomElement } = await loadGrid();
  defineCustomElement();
  const grid = document.createElement('revo-grid');
  Object.assign(grid, {
    theme: 'compact',
    rowSize,
    range: true,
    resize: true,
    filter: false,
    exporting: false,
    canMoveColumns: true,
    useClipboard: { rangeFill: true },
    frameSize: 6,
    applyOnClose: true,
    hideAttribution: true,
  });
  grid.setAttribute('aria-label', label);
  return grid;
}
