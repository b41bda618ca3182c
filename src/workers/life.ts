/**
 * In a worker: takes a lock and keeps it until the worker ends, which is how the page notices that
 * it did.
 */
export function live(name: string): Promise<boolean> {
  return new Promise((resolve) => {
    navigator.locks
      .request(name, () => {
        resolve(true);
        return new Promise(() => undefined);
      })
      .catch(() => {
        resolve(false);
      });
  });
}

/**
 * On the page: resolves when a worker ended. Whoever gets the lock after it knows. Browsers without
 * locks are not watched.
 * @param take has the worker take the lock of this name
 */
export async function ended(take: (name: string) => Promise<boolean>): Promise<void> {
  if (!('locks' in navigator)) return new Promise(() => undefined);
  const name = `bright-loom worker ${crypto.randomUUID()}`;
  if (!(await take(name))) return new Promise(() => undefined);
  await navigator.locks.request(name, () => undefined);
}
