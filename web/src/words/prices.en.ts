import { counted, whole } from './numbers.ts';

/** Words of the moment that everything is looked at. */
export const momentWords = {
  now: 'Now',
  hint: 'The moment that everything is looked at. Press to choose another.',
  title: 'Look at another moment',
  day: 'day',
  time: 'time',
  look: 'Look at it',
  back: 'Back to now',
  seenAs: 'prices as',
  anybody: 'anybody has them',
  stripAs: (group: string) => `Prices as ${group} has them.`,
  backAs: 'Back to anybody',
  close: 'Close',
  unreadable: 'Choose a day that is in the calendar.',
  before: (days: number) => (days === 365 ? 'A year ago' : `${days} days ago`),
  next: 'Where prices change next',
  begins: (name: string) => `${name} begins`,
  isOver: (name: string) => `${name} is over`,
  none: 'No sale begins or ends from now on.',
  strip: (when: string) => `As it will be on ${when}.`,
  stripPast: (when: string) => `As it stood on ${when}.`,
  pastHint:
    'Values are those of then; what is worked out from others, marked today, is not. Questions find by prices of then, and by all else as it stands now.',
  today: 'today',
  notOnRecord: 'not on record',
  changes:
    'Prices of sales, badges and what is bought from a day on are those of then. What you change is changed from now on.',
} as const;

/** Words of the line of what shoppers will pay. */
export const priceAheadWords = {
  said: (steps: readonly string[]) => `What shoppers pay: ${steps.join(', then ')}.`,
  step: (when: string, price: string, sale: string | null) =>
    price === '' ? `not on record from ${when}` : `${price}${sale ? `, ${sale},` : ''} from ${when}`,
} as const;

/** Words of the calendar of sales. */
export const calendarWords = {
  title: 'Calendar of sales',
  open: 'Calendar',
  spans: { month: 'Month', quarter: 'Three months', year: 'Year' },
  spanLabel: 'How much of the calendar is seen',
  earlier: 'Earlier',
  later: 'Later',
  today: 'Today',
  on: (outlets: readonly string[]) => `prices on ${outlets.join(', ')}`,
  of: 'of the',
  sheet: 'Sales as a sheet',
  none: 'There are no sales yet. A sale takes something off the price of goods between two days.',
  outside: (count: number) => `${counted(whole(count), 'sale lies', 'sales lie')} outside of what is seen.`,
  keys: '← → moves a bar by a day, Shift+← → its last day, Enter chooses a sale or opens what it is of. Edges can be dragged.',
  always: 'always',
  skus: (count: number) => counted(whole(count), 'SKU', 'SKUs'),
  onlyFor: (group: string) => `only for ${group}`,
  above: 'stands above others',
  ownPrices: 'prices of its own',
  moved: (name: string) => `Days of ${name}`,
  proposed: 'proposed',
  openGoods: 'Open its goods',
  putIn: (skus: number) => `Put the ${whole(skus)} SKUs of the working set in`,
  takeOut: 'Take the working set out of it',
  putTitle: (name: string) => `Into ${name}`,
  takeTitle: (name: string) => `Out of ${name}`,
  lookFirst: 'Look at its first day',
  endToday: 'End it with today',
  copy: 'Copy to next year',
  backwards: 'Nothing can end before it begins.',
  chart: 'Sales by day',
  isNew: 'proposed',
  newHint: 'It is in the proof, and not in the shop before that lands.',
  toProof: 'Look through the proof',
} as const;
