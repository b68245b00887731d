import { type StepKind, type Verb } from '../step.ts';
import { add } from './add.ts';
import { changeCase } from './changeCase.ts';
import { clear } from './clear.ts';
import { copy } from './copy.ts';
import { cut } from './cut.ts';
import { forMargin } from './forMargin.ts';
import { forMarkup } from './forMarkup.ts';
import { keepBetween } from './keepBetween.ts';
import { keepOnly } from './keepOnly.ts';
import { lower } from './lower.ts';
import { move } from './move.ts';
import { moveByDays } from './moveByDays.ts';
import { putAfter } from './putAfter.ts';
import { putBefore } from './putBefore.ts';
import { putFirst } from './putFirst.ts';
import { raise } from './raise.ts';
import { remove } from './remove.ts';
import { removeValue } from './removeValue.ts';
import { replace } from './replace.ts';
import { replacePattern } from './replacePattern.ts';
import { round } from './round.ts';
import { roundToSteps } from './roundToSteps.ts';
import { set } from './set.ts';
import { take } from './take.ts';
import { tidy } from './tidy.ts';
import { workOut } from './workOut.ts';
import { write } from './write.ts';

/** Every step, by its verb. A new step is a file beside these, its verb in `VERBS`, and a line here. */
export const STEPS: Readonly<Record<Verb, StepKind>> = {
  set,
  clear,
  copy,
  raise,
  lower,
  'work out': workOut,
  'for margin': forMargin,
  'for markup': forMarkup,
  round,
  'round to steps': roundToSteps,
  'keep between': keepBetween,
  'move by days': moveByDays,
  replace,
  'replace pattern': replacePattern,
  remove,
  'remove value': removeValue,
  'put before': putBefore,
  'put after': putAfter,
  write,
  'change case': changeCase,
  tidy,
  cut,
  add,
  take,
  move,
  'keep only': keepOnly,
  'put first': putFirst,
};
