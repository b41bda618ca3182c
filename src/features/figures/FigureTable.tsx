import type { ChannelFigures, OutputFigures } from '@/core/evaluate/figures';

const number = (value: number): string =>
  Number.isFinite(value) ? String(Number(value.toPrecision(4))) : '–';
const percent = (share: number): string =>
  share === 0 ? '–' : `${(share * 100).toFixed(share < 0.001 ? 3 : 1)} %`;

/** What is told of a channel; shares that mean trouble stand out. */
const COLUMNS: readonly {
  readonly title: string;
  readonly help: string;
  readonly text: (figures: ChannelFigures) => string;
  readonly isTrouble?: (figures: ChannelFigures) => boolean;
}[] = [
  { title: 'least', help: 'The least value', text: ({ minimum }) => number(minimum) },
  { title: 'most', help: 'The greatest value', text: ({ maximum }) => number(maximum) },
  { title: 'mean', help: 'The mean', text: ({ mean }) => number(mean) },
  { title: 'dev.', help: 'The standard deviation', text: ({ deviation }) => number(deviation) },
  {
    title: '< 0',
    help: 'Share of the surface below 0',
    text: ({ below }) => percent(below),
    isTrouble: ({ below }) => below > 0,
  },
  {
    title: '> 1',
    help: 'Share of the surface above 1',
    text: ({ above }) => percent(above),
    isTrouble: ({ above }) => above > 0,
  },
  {
    title: 'no number',
    help: 'Share of the surface without a number',
    text: ({ notANumber }) => percent(notANumber),
    isTrouble: ({ notANumber }) => notANumber > 0,
  },
  {
    title: 'partly',
    help: 'Share of the surface strictly between 0 and 1',
    text: ({ between }) => percent(between),
  },
];

/** One channel of one output. */
export interface ChosenChannel {
  readonly output: number;
  readonly channel: number;
}

interface Props {
  readonly figures: readonly OutputFigures[];
  readonly titles: ReadonlyMap<string, string>;
  readonly at: ChosenChannel;
  readonly onChoose: (at: ChosenChannel) => void;
}

/** All outputs and channels with their figures; one of them is looked at closer. */
export function FigureTable({ figures, titles, at, onChoose }: Props) {
  return (
    <table className="w-full border-collapse text-[11px]" data-testid="figure-table">
      <thead>
        <tr className="text-soft">
          <th scope="col" className="text-left font-normal">
            Output
          </th>
          {COLUMNS.map(({ title, help }) => (
            <th key={title} scope="col" className="px-1 text-right font-normal" title={help}>
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {figures.flatMap(({ key, channels }, output) =>
          channels.map((figure, channel) => (
            <tr key={`${key} ${figure.channel}`} className="border-t border-line">
              <th scope="row" className="text-left font-normal">
                <button
                  type="button"
                  aria-pressed={at.output === output && at.channel === channel}
                  className={
                    'min-h-[24px] text-left hover:underline ' +
                    (at.output === output && at.channel === channel ? 'border-b-2 border-weld' : '')
                  }
                  onClick={() => {
                    onChoose({ output, channel });
                  }}
                >
                  {titles.get(key)} <span className="text-soft">{figure.channel}</span>
                </button>
              </th>
              {COLUMNS.map(({ title, text, isTrouble }) => (
                <td
                  key={title}
                  className={
                    'figures px-1 text-right whitespace-nowrap ' +
                    (isTrouble?.(figure) ? 'text-madder' : '')
                  }
                >
                  {text(figure)}
                </td>
              ))}
            </tr>
          )),
        )}
      </tbody>
    </table>
  );
}
