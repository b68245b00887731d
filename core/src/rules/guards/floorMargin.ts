import { grossMargin, lowestPriceForMargin } from '../../money/margin.ts';
import { money } from '../../money/money.ts';
import { readPercent } from '../../money/percent.ts';
import { bad, good } from '../../problems/problem.ts';
import { showBasisPoints } from '../../values/numbers.ts';
import { guardKind } from '../guard.ts';
import { oneOf, type Slot } from '../slots.ts';

const PER_POINT = 100n;
/** A margin in basis points, below 100 %. */
const margin: Slot = {
  written: 'words',
  example: '35 %',
  read: (text) => {
    const read = readPercent(text);
    if (!read.ok) return bad('percent-unreadable', { value: text.trim(), expected: '35 %' });
    const points = read.value / PER_POINT;
    return points >= 10_000n || points < -100_000n
      ? bad('out-of-range', { value: text.trim(), expected: 'below 100 %' })
      : good(points.toString());
  },
  show: (canonical) => showBasisPoints(canonical).replace('−', '-'),
};

const EVEN_RAISED = 'even when raised';

/**
 * A price is not lowered below a margin on its cost. One that is raised has more margin than before, wherever that lies, and passes
 * unless asked for. Without a cost the margin is not known.
 */
export const floorMargin = guardKind({
  sentence: 'margin of {field} at least {margin} {raised}',
  slots: { margin, raised: oneOf(['unless raised', EVEN_RAISED], 'unless raised') },
  takes: ({ key }) => key === 'price',
  trims: true,
  needs: () => ['cost', 'taxRate'],
  prepare: (_field, slots) => {
    const floor = Number(slots.margin);
    const evenRaised = slots.raised === EVEN_RAISED;
    return (before, after, row) => {
      if (after === null) return undefined;
      const isRaised = before !== null && BigInt(after) > BigInt(before);
      if (isRaised && !evenRaised) return undefined;
      if (row.cost == null) return 'unknown';
      const [cost, tax] = [money(BigInt(row.cost)), Number(row.taxRate ?? 0)];
      const found = grossMargin(money(BigInt(after)), cost, tax);
      if (found !== undefined && found >= floor) return undefined;
      return { limit: lowestPriceForMargin(cost, floor, tax).toString() };
    };
  },
});
