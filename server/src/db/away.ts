/** What PostgreSQL says when it shuts down, crashed, or is not up yet; class 08 is lost connections. */
const CODES = /^(57P0[123]|08\w{3}|53300|ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;
/** The driver has no codes for these. */
const MESSAGES =
  /^(Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect|Client was closed)/;

/** Whether something failed because the database could not be reached, or its connection was lost; it may be tried again. */
export function isAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code } = error as { code?: unknown };
  return (typeof code === 'string' && CODES.test(code)) || MESSAGES.test(error.message) || isAway(error.cause);
}
