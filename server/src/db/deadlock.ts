import pg from 'pg';

const DEADLOCK = '40P01';

/** Whether two transactions waited for one another, and this one was ended so that the other goes on. */
export const isDeadlock = (error: unknown): boolean => error instanceof pg.DatabaseError && error.code === DEADLOCK;
