/** One figure of the bench: our time beside the raw work of the same run, in milliseconds, and what is to be reached. */
export interface Figure {
  readonly work: string;
  readonly ours: number;
  readonly raw?: number;
  /** What the figure must not exceed: a time, or a multiple of the raw work. */
  readonly limit?: { readonly ms: number } | { readonly times: number };
  readonly note?: string;
}

export const median = (times: readonly number[]): number => quantile(times, 0.5);

export function quantile(times: readonly number[], share: number): number {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!;
}

/** Milliseconds that some work takes. */
export async function timed<T>(work: () => Promise<T>): Promise<{ ms: number; value: T }> {
  const start = performance.now();
  const value = await work();
  return { ms: performance.now() - start, value };
}

export const isWithin = ({ ours, raw, limit }: Figure): boolean | undefined => {
  if (!limit) return undefined;
  if ('ms' in limit) return ours <= limit.ms;
  return raw === undefined ? undefined : ours <= limit.times * raw;
};

const ms = (value: number | undefined): string =>
  value === undefined ? '' : value < 10 ? value.toFixed(1) : Math.round(value).toLocaleString('en-GB');

/** The figures as a table in Markdown. */
export function table(figures: readonly Figure[]): string {
  const rows = figures.map((figure) => {
    const { work, ours, raw, limit, note } = figure;
    const reach = limit === undefined ? '' : 'ms' in limit ? `${ms(limit.ms)} ms` : `${limit.times} × raw`;
    const within = isWithin(figure);
    const verdict = within === undefined ? '' : within ? 'reached' : '**short**';
    return [work, ms(ours), ms(raw), raw === undefined ? '' : (ours / raw).toFixed(2), reach, verdict, note ?? ''];
  });
  const head = ['work', 'ours, ms', 'raw, ms', 'ratio', 'to reach', '', ''];
  return [head, head.map(() => '---'), ...rows].map((cells) => `| ${cells.join(' | ')} |`).join('\n');
}
