import { own } from '@/core/base/own';
import { outputKey } from '@/core/graph/result-key';
import { addDial, drivenValue } from '@/core/edit/dials';
import type { LawEnds } from '@/core/edit/dials';
import { offerDial } from '@/core/edit/dial-offers';
import { setValue } from '@/core/edit/nodes';
import type { Law, NetworkDocument } from '@/core/graph/document';
import type { Picture } from '@/core/evaluate/picture';
import type { Evaluation } from '@/state/evaluation';
import { unwrap } from '@/workers/answer';
import { boardAt } from '@/core/edit/board';
import { stores } from '@/state/stores';

/** The inner value that is being pulled out. */
export interface Exposing {
  readonly node: string;
  readonly input: string;
}

export interface Ends {
  readonly law: Law;
  /** The inner value at either end of the slider; null where it is no number. */
  readonly values: readonly [number, number] | null;
  readonly low: Picture;
  readonly high: Picture;
}

/** Pictures of both ends of a dial that is about to be made, one pair per law. */
export async function pictureEnds(
  evaluation: Evaluation,
  document: NetworkDocument,
  path: readonly string[],
  groupId: string,
  { node, input }: Exposing,
  laws: readonly Law[],
  given?: LawEnds,
): Promise<Ends[]> {
  const { modelId } = stores.document.getState(),
    { camera } = stores.view.getState();
  const instance = path.at(-1);
  const group = own(document.groups, groupId);
  const output = group?.outputs[0];
  if (!camera || !instance || !output) return [];
  const key = outputKey(path, output.id);
  const outer = boardAt(document, path.slice(0, -1));
  return Promise.all(
    laws.map(async (law) => {
      const made = addDial(document, groupId, node, input, law, 'trial', given);
      if (!made) throw new Error('This value cannot be a dial.');
      const dial = own(made.document.groups, groupId)?.dials.find(
        (each) => each.id === made.dialId,
      );
      const shoot = (value: number): Promise<Picture> =>
        unwrap(
          evaluation.pool.evaluator.picture(
            modelId,
            setValue(made.document, outer, instance, made.dialId, value),
            key,
            { ...camera, aspect: 1 },
            72,
          ),
        );
      const [from, to] = dial?.soft ?? [0, 2];
      const [drive] = dial?.drives ?? [];
      const offer = offerDial(document, groupId, node, input);
      const { designed } = offer ?? {};
      const home = typeof dial?.home === 'number' ? dial.home : 1;
      const at = (value: number): number =>
        drive && typeof designed === 'number' ? drivenValue(designed, drive, value, home) : value;
      const values =
        typeof designed === 'number' && offer?.isWired === false
          ? ([at(from), at(to)] as const)
          : null;
      return { law, values, low: await shoot(from), high: await shoot(to) };
    }),
  );
}
