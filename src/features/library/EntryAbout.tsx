import { own } from '@/core/base/own';
import { groupFacts } from '@/core/releases/group-facts';
import type { ReleaseView } from '@/contract/library';
import { FrontTable } from './FrontTable';

/** What a release does, needs and is made of. */
export function EntryAbout({ release }: { readonly release: ReleaseView }) {
  const { fault, groups, proof, comparison, documentVersion } = release;
  if (fault !== null)
    return (
      <p role="alert" className="text-madder">
        {fault}
      </p>
    );
  const facts = groupFacts(groups);
  const group = own(groups.definitions, groups.root);
  const inner = Object.keys(groups.definitions).length - 1;
  const rows: readonly (readonly [string, string])[] = [
    ['Needs', facts.needs.join(', ') || 'nothing of the model but its shape'],
    ['Follows', facts.follows.join(', ') || 'the surface alone: a bake is the same'],
    ['Made of', `${String(facts.nodes)} nodes${innerWords(inner)}: ` + facts.madeOf.join(', ')],
    ['Known limits', group?.limits ?? 'none stated'],
    ['Measured', proof ? proofWords(proof) : comparison ? comparedWords(comparison) : ''],
    ['Reads with', `documents of version ${String(documentVersion)} and later`],
  ];
  return (
    <>
      <FrontTable release={release} />
      <dl className="mt-3 grid grid-cols-[96px_1fr] gap-x-3 gap-y-1 text-[12px]">
        {rows.map(([term, words]) => (
          <div key={term} className="contents">
            <dt className="text-soft">{term}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

const innerWords = (count: number): string =>
  count === 0 ? '' : count === 1 ? ', one group inside' : `, ${String(count)} groups inside`;

/** What the proof of a first release says. */
export const proofWords = ({
  identical,
  points,
  models,
}: NonNullable<ReleaseView['proof']>): string =>
  identical
    ? `proved identical to its network at ${points.toLocaleString('en')} points of ` +
      models.join(', ')
    : 'it does not look like the network it came from';

/** What the comparison of a later release says. */
export function comparedWords({
  releaseClass,
  missing,
  moved,
  points,
  models,
}: NonNullable<ReleaseView['comparison']>): string {
  const where = `at ${points.toLocaleString('en')} points of ${models.join(', ')}`;
  if (releaseClass === 'same')
    return `equal to the bit at home and every end of its dials, ${where}`;
  const looks = moved
    .slice(0, 6)
    .map(({ setting, share }) => `${setting} (${String(Math.round(share * 100))} %)`)
    .join(', ');
  const more = moved.length > 6 ? ` and ${String(moved.length - 6)} more` : '';
  const seen = looks ? `looks different ${where}: ${looks}${more}` : 'looks the same';
  return missing.length > 0 ? `missing: ${missing.join('; ')}; ${seen}` : seen;
}
