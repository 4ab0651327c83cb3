import { useState } from 'react';

/**
 * A choice that is kept in this browser, for this person: a number or a word. What was kept and is
 * none of what is allowed counts as nothing.
 */
export function useStored<T extends number | string>(
  name: string,
  without: T,
  isAllowed: (v: unknown) => v is T,
): readonly [T, (v: T) => void] {
  const key = `wabisabi-${name}`;
  const [value, setValue] = useState<T>(() => {
    try {
      const kept: unknown = JSON.parse(localStorage.getItem(key) ?? 'null');
      return isAllowed(kept) ? kept : without;
    } catch {
      return without;
    }
  });
  const set = (v: T): void => {
    setValue(v);
    try {
      localStorage.setItem(key, JSON.stringify(v));
    } catch {
      /* it counts until the page is left */
    }
  };
  return [value, set];
}
