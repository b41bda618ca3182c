import type { Proof } from '@/core/evaluate/proof';

/** The outcome of a proof in a sentence. */
export function sentenceFor(proof: Proof): string {
  const { difference } = proof;
  if (proof.identical || !difference)
    return (
      (proof.against === 'inside'
        ? 'It was built from inside: at home it equals that inside with the dials away, bit for ' +
          'bit, at '
        : 'At home it equals the network it came from, bit for bit, at ') +
      `${proof.points.toLocaleString('en')} points of ${proof.models.join(' and ')}.`
    );
  const where = difference.where.map((x) => x.toFixed(3)).join(', ');
  return (
    `“${difference.output}” differs by up to ${difference.largest.toPrecision(3)} on ` +
    `${difference.model}, at (${where}) m; ${(difference.share * 100).toFixed(1)} % of the ` +
    'points differ.'
  );
}
