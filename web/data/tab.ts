/**
 * Which tab this is: what a tab keeps in the browser bears its name, so that two tabs do not replace
 * each other's. Locks tell which tabs are open; what closed ones left may be taken over.
 */
const NAME = 'wabisabi-tab';

const random = (): string => Math.random().toString(36).slice(2, 10);
/** Holds a name until the page closes; false if another tab has it. */
const hold = (name: string): Promise<boolean> =>
  new Promise((resolve) => {
    void navigator.locks.request(`${NAME} ${name}`, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock ? new Promise<void>(() => {}) : undefined;
    });
  });

async function claim(): Promise<string> {
  // Without locks (pages that are not from this machine or not encrypted) tabs share what they keep.
  if (!globalThis.navigator?.locks) return '';
  const known = sessionStorage.getItem(NAME);
  // A tab that was duplicated has the name of the other.
  const name = known !== null && (await hold(known)) ? known : random();
  if (name !== known) await hold(name);
  sessionStorage.setItem(NAME, name);
  return name;
}

let claimed: Promise<string> | undefined;
/** The name of this tab; empty where tabs cannot be told apart. */
export const thisTab = (): Promise<string> => (claimed ??= claim().catch(() => ''));

/** The names of the open tabs. */
export async function openTabs(): Promise<ReadonlySet<string>> {
  const { held = [] } = (await globalThis.navigator?.locks?.query()) ?? {};
  return new Set(
    held.flatMap(({ name }) => (name?.startsWith(`${NAME} `) ? [name.slice(NAME.length + 1)] : [])),
  );
}
