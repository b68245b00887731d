import { bad, good, type Result } from '../problems/problem.ts';
import { holdsNumber, OF_NUMBERS } from './comparing.ts';
import { type ValueType } from './valueType.ts';

/** A time that the clocks of the shop show on a day, to the minute, as minutes since its midnight. */
export const timeOfDay: ValueType = {
  isNumber: true,
  isNamed: false,
  comparisons: OF_NUMBERS,
  usual: 'is',
  read: (text) => readTime(text),
  show: (value) => shownTime(Number(value)),
  holds: (comparison, value, wanted) => holdsNumber(comparison, value, wanted),
};

/** Minutes since midnight as ISO 8601 writes them. */
export const shownTime = (minutes: number): string =>
  [Math.floor(minutes / 60), minutes % 60].map((part) => String(part).padStart(2, '0')).join(':');

const WRITTEN = /^(\d{1,2})(?:[:.](\d{2}))?\s*(am|pm)?$/i;

/** Reads `18:00`, `18.00`, `6 pm` and `6:30 pm`. Refuses what no clock shows, and an hour that does not say which half of the day is meant. */
function readTime(text: string): Result<string> {
  const [, hours, minutes, half] = WRITTEN.exec(text.trim()) ?? [];
  const unreadable = bad('time-unreadable', { value: text.trim(), expected: '18:00' });
  if (hours === undefined || (minutes === undefined && half === undefined)) return unreadable;
  const [hour, minute] = [Number(hours), Number(minutes ?? 0)];
  if (minute > 59 || (half ? hour < 1 || hour > 12 : hour > 23)) return unreadable;
  const later = half?.toLowerCase() === 'pm' ? 12 : 0;
  return good(String((half ? (hour % 12) + later : hour) * 60 + minute));
}
