import { defineNode, input, output } from '../define';
import { eachLane } from '../lanes';

export const clamp = defineNode({
  id: 'ranges.clamp',
  version: 1,
  title: 'Clamp',
  family: 'ranges',
  synonyms: ['limit', 'cut', 'bound', 'saturate'],
  help: 'Keeps values between a lowest and a highest. If the ends are crossed, the highest wins.',
  formula: 'min(max(x, lowest), highest)',
  inputs: {
    value: input.flex({ title: 'Value', help: 'What is limited.', default: 0.5 }),
    lowest: input.flex({ title: 'Lowest', help: 'Nothing below this remains.', default: 0 }),
    highest: input.flex({ title: 'Highest', help: 'Nothing above this remains.', default: 1 }),
  },
  outputs: { value: output.flex('Value', 'The limited value.') },
  watches: ['value', 'lowest', 'highest'],
  cuts: {
    of: 'value',
    ends: (reads) => {
      const [lowest, highest] = [reads.arriving('lowest'), reads.arriving('highest')];
      return lowest?.constant && highest?.constant
        ? { lowest: lowest.minimum, highest: highest.maximum }
        : null;
    },
  },
  advise: (reads) => {
    const [value, lowest, highest] = [
      reads.arriving('value'),
      reads.arriving('lowest'),
      reads.arriving('highest'),
    ];
    const idle =
      value &&
      lowest &&
      highest &&
      !value.constant &&
      value.notANumber === 0 &&
      value.minimum >= lowest.maximum &&
      value.maximum <= highest.minimum;
    return idle
      ? [
          {
            code: 'clamp.idle',
            mark: 'idle',
            message:
              'This clamp changes nothing: what arrives lies between ' +
              `${value.minimum.toFixed(2)} and ${value.maximum.toFixed(2)}.`,
          },
        ]
      : [];
  },
  lower: (b, { value, lowest, highest }) => ({
    value: eachLane([value, lowest, highest], ([x, lo, hi]) =>
      b.clamp(x as never, lo as never, hi as never),
    ),
  }),
});
