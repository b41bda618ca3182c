import { useEffect, useRef, useState } from 'react';
import { describeError } from '../core/base/problem';
import type { Problem } from '../core/base/problem';
import { useMeasuring } from './use-stores';

/** What was found last, and why nothing newer could be. */
export interface Followed<T> {
  readonly found: T | null;
  readonly problem: Problem | null;
}

/**
 * What is found of something that is edited: asked again whenever `subject` is another object,
 * and when measuring begins or ends.
 * While one answer is on its way the next question waits, and only the newest is asked.
 * @param ask the same function as long as the same is asked
 */
export function useFollowed<T>(ask: () => Promise<T>, subject: unknown): Followed<T> {
  const [state, setState] = useState<Followed<T>>({ found: null, problem: null });
  // What is measured on the model decides most answers.
  const isMeasuring = useMeasuring(({ progress }) => progress !== null);
  const isAsking = useRef(false);
  const next = useRef<() => void>(null);
  useEffect(() => {
    let old = false;
    const run = (): void => {
      isAsking.current = true;
      next.current = null;
      ask()
        .then(
          (found) => {
            if (!old) setState({ found, problem: null });
          },
          (error: unknown) => {
            if (!old) setState((now) => ({ ...now, problem: describeError(error) }));
          },
        )
        .finally(() => {
          isAsking.current = false;
          next.current?.();
        });
    };
    if (isAsking.current) next.current = run;
    else run();
    return () => {
      // An answer to what was asked a moment ago still tells more than none.
      old = next.current === run;
    };
  }, [ask, subject, isMeasuring]);
  return state;
}
