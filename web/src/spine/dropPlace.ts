import { type Arrangement } from './arrangement.ts';

/** Where a dragged branch would stand: in `into` (null is the top), before `before` or behind all. */
export interface DropPlace {
  readonly into: string | null;
  readonly before: string | null;
}

/** Whether the pointer is over the upper edge of a line, its middle or its lower edge. */
export function zoneOf(offset: number, height: number): 'before' | 'into' | 'behind' {
  if (offset < height / 4) return 'before';
  return offset > (height * 3) / 4 ? 'behind' : 'into';
}

/** Where branches go that are dropped on a line; undefined where they would lie in themselves. */
export function dropPlace(
  tree: Arrangement,
  moving: ReadonlySet<string>,
  target: string,
  zone: 'before' | 'into' | 'behind',
): DropPlace | undefined {
  if (tree.above(target).some((id) => moving.has(id))) return undefined;
  if (zone === 'into') return { into: target, before: null };
  const into = tree.get(target)?.parent ?? null;
  if (zone === 'before') return { into, before: target };
  const siblings = tree.childrenOf(into).filter(({ id }) => !moving.has(id));
  const next = siblings[siblings.findIndex(({ id }) => id === target) + 1];
  return { into, before: next?.id ?? null };
}

/**
 * Where a key moves a branch: among its siblings, into the sibling above, or out of its parent; undefined where it cannot move.
 * Siblings that are `moving` with it go together, past the next that stays.
 */
export function stepPlace(
  tree: Arrangement,
  id: string,
  step: 'up' | 'down' | 'in' | 'out',
  moving: ReadonlySet<string> = new Set([id]),
): DropPlace | undefined {
  const branch = tree.get(id);
  if (!branch) return undefined;
  const siblings = tree.childrenOf(branch.parent);
  const first = siblings.findIndex((one) => moving.has(one.id));
  const last = siblings.findLastIndex((one) => moving.has(one.id));
  const above = siblings[first - 1];
  switch (step) {
    case 'up':
      return above && { into: branch.parent, before: above.id };
    case 'down':
      return siblings[last + 1] && { into: branch.parent, before: siblings[last + 2]?.id ?? null };
    case 'in':
      return above && { into: above.id, before: null };
    case 'out': {
      const parent = branch.parent === null ? undefined : tree.get(branch.parent);
      if (!parent) return undefined;
      const around = tree.childrenOf(parent.parent);
      return { into: parent.parent, before: around[around.findIndex((one) => one.id === parent.id) + 1]?.id ?? null };
    }
  }
}
