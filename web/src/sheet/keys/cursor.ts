import { type Block } from '../grid/gridEdits.ts';
import { type Place } from './steps.ts';

/** Which cell has the focus, and the block that is chosen from it. */
export class Cursor {
  focus: Place = { x: 0, y: 0 };
  /** The other corner of a chosen block; the focused cell itself when there is none. */
  corner: Place = { x: 0, y: 0 };
  /** A block is being widened by keys: the grid then tells of the moving corner as if it were the focus. */
  widens = false;

  moveTo(place: Place): void {
    this.focus = this.corner = place;
  }

  widenTo(corner: Place): void {
    this.corner = corner;
    this.widens = true;
  }

  /** Adopts a block that was selected with the mouse. */
  follow({ x, x1, y, y1 }: Block): void {
    const { focus } = this;
    const isIn = focus.x >= x && focus.x <= x1 && focus.y >= y && focus.y <= y1;
    if (isIn) this.corner = { x: focus.x === x ? x1 : x, y: focus.y === y ? y1 : y };
  }

  /** The block between focus and corner, both within. */
  get block(): Block {
    const { focus, corner } = this;
    return {
      x: Math.min(focus.x, corner.x),
      x1: Math.max(focus.x, corner.x),
      y: Math.min(focus.y, corner.y),
      y1: Math.max(focus.y, corner.y),
    };
  }
}
