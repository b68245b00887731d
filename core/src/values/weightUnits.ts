const GRAMS = ['g', 'gr', 'gram', 'grams'];
const KILOGRAMS = ['kg', 'kgs', 'kilo', 'kilos', 'kilogram', 'kilograms'];

/** How many grams a unit of weight holds, by what people and suppliers call it in small letters. */
export const GRAMS_OF: ReadonlyMap<string, number> = new Map([
  ...GRAMS.map((unit) => [unit, 1] as const),
  ...KILOGRAMS.map((unit) => [unit, 1_000] as const),
]);
