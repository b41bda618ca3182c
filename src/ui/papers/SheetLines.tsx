import type { ReactNode } from 'react';
import type { ProofSheet, SheetLine } from '@/core/evaluate/proof-sheet';

interface Props {
  readonly sheet: ProofSheet;
  readonly line: SheetLine;
  /** The picture of a number, or what stands in for it. */
  readonly draw: (index: number, label: string) => ReactNode;
}

/** The share of a picture that is not as at home, in words. */
export const shareText = (share: number | null | undefined): string => {
  if (share === null || share === undefined) return '…';
  if (share === 0) return 'same';
  return share < 0.001 ? '< 0.1 %' : `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;
};

/** The output that pictures of a line show on a model, where a sheet shows several. */
export function shownOn({ outputs }: ProofSheet, { first, cells }: SheetLine, m: number): string {
  const isOne = new Set(outputs.filter((each) => each !== null)).size < 2;
  return isOne ? '' : (outputs[first + m * cells.length] ?? '');
}

/** The pictures of one dial, or of all variants: a block for each model. */
export function SheetPictures({ sheet, line, draw }: Props) {
  return (
    <div
      className="flex flex-wrap gap-x-4 gap-y-1"
      data-testid={`sheet-${line.dial ?? 'variants'}`}
    >
      {line.models.map((model, m) => (
        <figure key={model}>
          <figcaption className="text-[10.5px] text-soft">
            {[sheet.models[model], shownOn(sheet, line, m)].filter(Boolean).join(': ')}
          </figcaption>
          <ul className={`flex gap-1 ${line.kind === 'dial' ? '' : 'max-w-[800px] flex-wrap'}`}>
            {line.cells.map((cell, c) => {
              const index = line.first + m * line.cells.length + c;
              const label = `${line.title}, ${cell.title}, on ${sheet.models[model] ?? ''}`;
              return (
                <li key={index} className="w-[88px] text-[10.5px] leading-[13px]">
                  <span className="block h-[88px] w-[88px] bg-stage">{draw(index, label)}</span>
                  <span className="block truncate" title={cell.title}>
                    {cell.title}
                  </span>
                  <span className="figures block text-soft">{shareText(sheet.shares[index])}</span>
                </li>
              );
            })}
          </ul>
        </figure>
      ))}
    </div>
  );
}
