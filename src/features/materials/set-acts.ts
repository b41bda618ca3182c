import { toast } from 'sonner';
import type { MaterialSet } from '@/contract/materials';
import { arrangeSet, createSet, fillSet } from '@/contract/sets';
import { call } from '@/state/api';
import { refreshMaterials } from '@/state/material-list';
import { tellProblem } from '@/ui/tell-problem';

const act = (words: string, work: () => Promise<unknown>, then?: () => void): void => {
  work().then(() => {
    toast(words);
    then?.();
    void refreshMaterials();
  }, tellProblem);
};
const counted = (count: number): string =>
  count === 1 ? '1 material' : `${String(count)} materials`;

type Named = Pick<MaterialSet, 'id' | 'name'>;
const fill = ({ id }: Named, add: readonly string[], remove: readonly string[]) =>
  call(fillSet, { params: { id }, body: { add, remove } });

/** What can be done with sets; lists are read anew after each. */
export const SET_ACTS = {
  /** Makes a set, with materials in it where some are given. */
  create: (projectId: string, name: string, materials: readonly string[] = []): void => {
    act(`Made the set “${name}”`, async () => {
      const { id } = await call(createSet, { body: { projectId, name } });
      if (materials.length > 0) await fill({ id, name }, materials, []);
    });
  },
  rename: ({ id }: Named, name: string): void => {
    act(`Renamed to “${name}”`, () => call(arrangeSet, { params: { id }, body: { name } }));
  },
  remove: ({ id, name }: Named, then: () => void): void => {
    act(
      `Took the set “${name}” apart; its materials stay`,
      () => call(arrangeSet, { params: { id }, body: { isRemoved: true } }),
      then,
    );
  },
  put: (set: Named, materials: readonly string[], then: () => void): void => {
    act(
      `Put ${counted(materials.length)} into “${set.name}”`,
      () => fill(set, materials, []),
      then,
    );
  },
  takeOut: (set: Named, materials: readonly string[], then: () => void): void => {
    act(
      `Took ${counted(materials.length)} out of “${set.name}”`,
      () => fill(set, [], materials),
      then,
    );
  },
};
