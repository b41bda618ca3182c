/**
 * Which tab of the browser this is: a name that survives reloading, and that no two open tabs
 * share.
 */

const KEPT_AS = 'bright-loom tab';
const lockOf = (tab: string): string => `bright-loom tab ${tab}`;
/** How long a page that is being left may keep its name, milliseconds. */
const LEAVING = 800;

/** Takes a name until the page ends. @returns false where another tab has it */
function take(tab: string, patienceMs: number): Promise<boolean> {
  return new Promise((resolve) => {
    const options = { signal: AbortSignal.timeout(patienceMs) };
    const hold = (): Promise<never> => {
      resolve(true);
      return new Promise(() => undefined);
    };
    navigator.locks.request(lockOf(tab), options, hold).catch(() => {
      resolve(false);
    });
  });
}

async function find(): Promise<string> {
  const kept = sessionStorage.getItem(KEPT_AS);
  // A tab that was duplicated brings the other's name with it.
  if (kept && (!('locks' in navigator) || (await take(kept, LEAVING)))) return kept;
  const made = crypto.randomUUID();
  sessionStorage.setItem(KEPT_AS, made);
  if ('locks' in navigator) await take(made, LEAVING);
  return made;
}

let found: Promise<string> | undefined;
/** The name of this tab. */
export const thisTab = (): Promise<string> => (found ??= find());

/** Names of other tabs that are open; null where the browser cannot tell. */
export async function otherOpenTabs(): Promise<ReadonlySet<string> | null> {
  if (!('locks' in navigator)) return null;
  const own = await thisTab();
  const { held = [] } = await navigator.locks.query();
  const prefix = lockOf('');
  const tabs = held.flatMap(({ name = '' }) =>
    name.startsWith(prefix) ? [name.slice(prefix.length)] : [],
  );
  return new Set(tabs.filter((tab) => tab !== own));
}
