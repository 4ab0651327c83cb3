/**
 * Bounds on documents from outside. They are checked first, because everything after takes time in
 * proportion to size.
 */

/**
 * Limits on depth, number of values and keys per object, far above any meaningful look or request.
 */
const MOST_DEPTH = 24,
  MOST_VALUES = 400_000,
  MOST_KEYS = 1000;

/** Why parsed JSON exceeds the bounds; undefined if it does not. Linear time, no recursion. */
export function beyondBounds(json: unknown): string | undefined {
  let values = 0,
    nul = false;
  const open: { readonly value: object; readonly depth: number }[] = [];
  const visit = (value: unknown, depth: number): void => {
    values++;
    // Valid in JSON, but PostgreSQL's text cannot hold it.
    if (typeof value === 'string' && value.includes('\0')) nul = true;
    if (value !== null && typeof value === 'object') open.push({ value, depth });
  };
  visit(json, 1);
  for (let next = open.pop(); next; next = open.pop()) {
    const { value, depth } = next;
    if (depth > MOST_DEPTH) return `is more than ${MOST_DEPTH} deep`;
    if (Array.isArray(value)) for (const v of value) visit(v, depth + 1);
    else {
      const keys = Object.keys(value);
      if (keys.length > MOST_KEYS)
        return `has an object of ${keys.length} keys; at most ${MOST_KEYS} are read`;
      for (const k of keys) visit((value as Record<string, unknown>)[k], depth + 1);
    }
    if (nul) return 'holds the character NUL, which is no text';
    if (values > MOST_VALUES) return `holds more than ${MOST_VALUES} values`;
  }
  return undefined;
}
