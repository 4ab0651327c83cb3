/**
 * Bounds on documents from outside, looked at before anything is made of them: what follows takes
 * time by their size.
 */

/**
 * No look or request that means something is deeper, has more values, or an object of more keys.
 */
const MOST_DEPTH = 24,
  MOST_VALUES = 400_000,
  MOST_KEYS = 1000;

/**
 * Why parsed JSON is beyond what can be read; undefined where it is not. Takes time in proportion
 * to its size, and no stack.
 */
export function beyondBounds(json: unknown): string | undefined {
  let values = 0,
    nul = false;
  const open: { readonly value: object; readonly depth: number }[] = [];
  const visit = (value: unknown, depth: number): void => {
    values++;
    // Text to JSON, and to nothing after it: no database holds one.
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
