/** Test helper: the browser's storage. */

/** Storage whose keys are its own properties, as in a browser, over a map. */
export const storageOf = (values: Map<string, string>) =>
  new Proxy(
    {
      getItem: (k: string) => values.get(k) ?? null,
      setItem: (k: string, v: string) => void values.set(k, v),
      removeItem: (k: string) => void values.delete(k),
    },
    {
      ownKeys: () => [...values.keys()],
      getOwnPropertyDescriptor: () => ({ enumerable: true, configurable: true }),
    },
  );
