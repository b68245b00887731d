import { arePictures } from '../../theme/arePictures.ts';
import { type SheetRow, type SheetRows } from './sheetRows.ts';

const OVER = 'takes-drop';

/** Pictures that were dropped on a row. */
export interface PicturesOnRow {
  readonly row: SheetRow;
  readonly files: readonly File[];
}

/** Takes pictures that are dropped on a row of the grid, which is outlined while they are over it. */
export function hearDrops(host: HTMLElement, rows: () => SheetRows, dropped: (drop: PicturesOnRow) => void): void {
  let over: Element | null = null;
  const mark = (element: Element | null) => {
    if (element === over) return;
    over?.classList.remove(OVER);
    element?.classList.add(OVER);
    over = element;
  };
  const rowUnder = ({ target }: DragEvent) =>
    target instanceof Element ? target.closest<HTMLElement>('.rgRow') : null;
  host.addEventListener('dragover', (event) => {
    if (!arePictures(event.dataTransfer)) return;
    event.preventDefault();
    mark(rowUnder(event));
  });
  host.addEventListener('dragleave', () => mark(null));
  host.addEventListener('drop', (event) => {
    mark(null);
    const row = rows().rows[Number(rowUnder(event)?.dataset['rgrow'] ?? NaN)];
    const files = [...(event.dataTransfer?.files ?? [])];
    if (!arePictures(event.dataTransfer) || files.length === 0) return;
    event.preventDefault();
    if (row?.productId) dropped({ row, files });
  });
}
