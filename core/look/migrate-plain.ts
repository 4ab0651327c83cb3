/** Parsed JSON of documents that are not validated yet. */
export type Plain = Record<string, unknown>;
/** Whether a value is an object with keys. */
export const isPlain = (v: unknown): v is Plain =>
  v !== null && typeof v === 'object' && !Array.isArray(v);
/** A list, or none. */
export const list = (v: unknown): unknown[] => (Array.isArray(v) ? v : []);
