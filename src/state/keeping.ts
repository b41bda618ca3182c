'use client';
import { createContext, useContext } from 'react';
import type { RoundGiven } from './kept-states';
import { keepStateHere, useStates } from './kept-states';
import type { Saver } from './saving';

/** What saves the open material, for parts that keep a state of it. */
export const SaverContext = createContext<Saver | null>(null);

/**
 * Keeps a round of feedback as the next state of the open material.
 * @returns by what name @throws ApiFailure, AppError
 */
export function useKeepRound(): (round: RoundGiven, words: string) => Promise<string> {
  const saver = useContext(SaverContext);
  const { data } = useStates();
  const rounds = data?.states.filter(({ about }) => about !== null).length ?? 0;
  return async (round, words) => {
    const name = `Round ${String(rounds + 1)}`;
    if (saver) await keepStateHere(saver, name, words, round);
    return name;
  };
}
