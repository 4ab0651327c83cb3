/**
 * Bounds on documents from outside. They are checked first, because everything after takes time in
 * proportion to size.
 */

/**
 * Limits on depth, number of values and keys per object, far above any meaningful look or request.
 */
const MOST_DEPTH = 24,
  MOST_VALUES = 400_000,
  MOST_KEYS = 20_000;

/** Whether JSON is nested too deep, told without reading it into values. Linear time. */
export function isTooDeep(json: string): boolean {
  let depth = 0,
    quoted = false;
  for (let i = 0; i < json.length; i++) {
    const c = json.charCodeAt(i);
    if (quoted) {
      if (c === 0x5c) i++;
      else if (c === 0x22) quoted = false;
    } else if (c === 0x22) quoted = true;
    else if (c === 0x5b || c === 0x7b) {
      if (++depth > MOST_DEPTH + 1) return true;
    } else if (c === 0x5d || c === 0x7d) depth--;
  }
  return false;
}

/** Names that objects have by themselves: as keys of documents they would be taken for those. */
const INHERITED = new Set(['__proto__', 'constructor', 'prototype']);
/** Half of a pair of surrogates alone: valid in JSON, and no text. */
const LONE = /\p{Surrogate}/u;

/** Why parsed JSON exceeds the bounds; undefined if it does not. Linear time, no recursion. */
export function beyondBounds(json: unknown): string | undefined {
  let values = 0,
    bad: string | undefined;
  const check = (text: string): void => {
    // Valid in JSON, but PostgreSQL's text cannot hold it.
    if (text.includes('\0')) bad ??= 'holds the character NUL, which is no text';
    else if (LONE.test(text)) bad ??= 'holds half a character (a lone surrogate), which is no text';
  };
  const open: { readonly value: object; readonly depth: number }[] = [];
  const visit = (value: unknown, depth: number): void => {
    values++;
    if (typeof value === 'string') check(value);
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
      for (const k of keys) {
        check(k);
        if (INHERITED.has(k)) return `has a key "${k}", which is no name`;
        visit((value as Record<string, unknown>)[k], depth + 1);
      }
    }
    if (bad) return bad;
    if (values > MOST_VALUES) return `holds more than ${MOST_VALUES} values`;
  }
  return undefined;
}
