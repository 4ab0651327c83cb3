/** Tells whether an error means that the database cannot be reached. */
const CODES = new Set([
  ...['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND'],
  // PostgreSQL's classes "connection exception" and "operator intervention": shutting down,
  // crashed, starting up.
  ...['08000', '08001', '08003', '08004', '08006', '57P01', '57P02', '57P03'],
  // Too many connections: others will end.
  '53300',
]);
/** Messages of the driver that have no code. */
const WORDS = [
  'Connection terminated',
  'Client has encountered a connection error',
  'timeout exceeded when trying to connect',
  'sorry, too many clients already',
  'remaining connection slots are reserved',
];

/** Whether an error, or one of its causes, means that the database cannot be reached. */
export function isAway(e: unknown): boolean {
  for (let at = e, depth = 0; at instanceof Error && depth < 6; at = at.cause, depth++) {
    const { code, message } = at as Error & { code?: unknown };
    if ((typeof code === 'string' && CODES.has(code)) || WORDS.some((w) => message.startsWith(w)))
      return true;
    if (at instanceof AggregateError && at.errors.some(isAway)) return true;
  }
  return false;
}
