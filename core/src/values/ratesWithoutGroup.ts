/** The destination of an entry of rates in canonical text. */
const destination = (entry: string): string => entry.slice(0, entry.indexOf(' '));

/**
 * Rates in canonical text without a group of countries that goes, by which everything ships as it did: another group `into` stands where it
 * stood, or else each of its countries by itself, but for those that had rates before it. Null where nothing is left.
 */
export function ratesWithoutGroup(
  value: string,
  gone: string,
  into: string | null,
  countriesOf: (group: string) => readonly string[],
): string | null {
  const entries = value.split('|');
  const named = entries.map(destination);
  const first = named.indexOf(`g${gone}`);
  const before = named.slice(0, Math.max(first, 0)).filter((to) => /^g\d/.test(to));
  const known = new Set([...named, ...before.flatMap((group) => countriesOf(group.slice(1)))]);
  const stand = into === null ? countriesOf(gone) : [`g${into}`];
  const instead = stand.filter((to) => !known.has(to));
  const left = entries.flatMap((entry, i) =>
    named[i] === `g${gone}` ? instead.map((to) => to + entry.slice(entry.indexOf(' '))) : [entry],
  );
  return left.join('|') || null;
}
