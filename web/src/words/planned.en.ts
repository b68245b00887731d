import { counted } from './numbers.ts';

/** Words of landings that are planned, and of seasons. */
export const plannedWords = {
  title: 'Planned',
  plan: 'At a moment …',
  form: 'When it lands',
  lands: 'Lands on',
  back: 'Taken back on',
  hint: 'Without a day to land on it lands by hand, now. Without a day to be taken back on it stays; with one it is a season.',
  time: 'at',
  changed: 'If something changed meanwhile',
  whenChanged: { wait: 'it waits for a person', rest: 'the rest lands' } as const,
  keep: 'Plan it',
  landNow: 'Land now, take back then',
  move: 'Move it',
  leave: 'Leave it as it is',
  unreadable: 'Choose a day that is in the calendar.',
  sayWhen: 'Say when it lands, or when it is taken back.',
  callOff: 'Call off',
  callOffHint: 'What has not landed is set aside under its name. What has landed stays.',
  moveShort: 'Move',
  landsAt: (when: string) => `lands on ${when}`,
  byHand: 'lands by hand',
  landed: 'landed',
  backAt: (when: string) => `is taken back on ${when}`,
  waits: 'waits for you',
  lookThrough: 'Look through',
  columns: { what: 'What', lines: 'Lines', when: 'When', person: 'By', changed: 'If something changed' },
  waiting: (count: number) => `${counted(String(count), 'planned landing waits', 'planned landings wait')} for you`,
  notInIt: (count: number) =>
    `${counted(String(count), 'landing that is planned until then is', 'landings that are planned until then are')} not in it.`,
  rows: 'planned landing',
} as const;
