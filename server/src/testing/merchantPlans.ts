import { sql } from 'kysely';
import { landDue } from '../changes/planned/landDue.ts';
import { callOff, listPlanned, movePlanned, planProof } from '../changes/planned/plan.ts';
import { type ActNumbers, type Merchants } from './merchants.ts';

const HOUR = 60 * 60 * 1_000;
const inHours = (m: Merchants, hours: number) => m.db.clock() + hours * HOUR;

/** A moment for landing and one for taking back, either of which may be missing. */
const planning = (m: Merchants, { what, how }: ActNumbers) => ({
  at: inHours(m, 1 + (what % 5)),
  back: how % 3 === 0 ? null : inHours(m, 6 + (how % 5)),
  whenChanged: how % 2 === 0 ? ('wait' as const) : ('rest' as const),
});

/** Plans of landings, and the hours going by. */
export const PLAN_ACTS = {
  plan: async (m: Merchants, act: ActNumbers) => {
    const hand = await m.hand(m.person(act));
    if (hand === undefined) return undefined;
    await planProof(m.db, m.person(act), hand, planning(m, act));
    return 'planned what is in hand';
  },
  movePlan: async (m: Merchants, act: ActNumbers) => {
    const planned = await listPlanned(m.db);
    const one = planned[act.which % planned.length];
    if (!one) return undefined;
    await movePlanned(m.db, one.id, planning(m, act));
    return `moved the plan of ${one.title}`;
  },
  callOff: async (m: Merchants, act: ActNumbers) => {
    const planned = await listPlanned(m.db);
    const one = planned[act.which % planned.length];
    if (!one) return undefined;
    await callOff(m.db, one.id);
    return `called ${one.title} off`;
  },
  /** So many hours go by for all that is planned: its moments come nearer by as many. */
  hours: async (m: Merchants, act: ActNumbers) => {
    const hours = 1 + (act.how % 6);
    const nearer = sql`make_interval(hours => ${hours}::int)`;
    await sql`update planned set lands_at = lands_at - ${nearer}, back_at = back_at - ${nearer}`.execute(m.db.q);
    // The server lands what is due too, and may be at it just now.
    while (await m.isDue()) await landDue(m.db);
    return `${hours} hours went by`;
  },
};
