import { useState } from 'react';

/**
 * A setting stored in this browser: a number or a string. Stored values that are not allowed are
 * ignored.
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
      /* stored for this visit only */
    }
  };
  return [value, set];
}
