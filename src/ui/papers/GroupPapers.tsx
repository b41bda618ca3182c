import type { ReactNode } from 'react';
import { equationText } from '@/core/edit/equation';
import { dialSections, dialWords, portWords } from '@/core/edit/group-papers';
import type { ProofSheet } from '@/core/evaluate/proof-sheet';
import type { GroupDefinition, NetworkDocument } from '@/core/graph/document';
import { SheetPictures } from './SheetLines';

interface Props {
  /** Holds the groups that the group uses. */
  readonly document: NetworkDocument;
  readonly group: GroupDefinition;
  /** None where none was made yet. */
  readonly sheet: ProofSheet | null;
  readonly draw: (index: number, label: string) => ReactNode;
}

const HEAD = 'mt-3 mb-1 border-b border-line text-[13px] font-semibold';

/** The help page of a group, made from the group: its front with what each dial does, and more. */
export function GroupPapers({ document, group, sheet, draw }: Props) {
  const lines = new Map((sheet?.lines ?? []).map((line) => [line.dial ?? '', line]));
  const variants = lines.get('');
  return (
    <div className="text-[12px]" data-testid="papers">
      {dialSections(group).map(({ title, dials }) => (
        <section key={title} aria-label={title}>
          <h3 className={HEAD}>{title}</h3>
          {dials.map((dial) => {
            const line = lines.get(dial.id);
            return (
              <div key={dial.id} className="mb-2">
                <p>
                  <strong>{dial.name}</strong> <span className="text-soft">{dialWords(dial)}</span>
                </p>
                {sheet && line ? <SheetPictures {...{ sheet, line, draw }} /> : null}
              </div>
            );
          })}
        </section>
      ))}
      {sheet && variants ? (
        <section aria-label="Variants">
          <h3 className={HEAD}>Variants</h3>
          <SheetPictures {...{ sheet, line: variants, draw }} />
        </section>
      ) : null}
      <Ports group={group} />
      {group.limits ? (
        <section aria-label="Known limits">
          <h3 className={HEAD}>Known limits</h3>
          <p className="max-w-[70ch] whitespace-pre-wrap">{group.limits}</p>
        </section>
      ) : null}
      {group.network.notes.length > 0 ? (
        <section aria-label="Notes inside">
          <h3 className={HEAD}>Notes inside</h3>
          {group.network.notes.map(({ id, text }) => (
            <p key={id} className="max-w-[70ch] whitespace-pre-wrap">
              {text}
            </p>
          ))}
        </section>
      ) : null}
      <section aria-label="Equation">
        <h3 className={HEAD}>Equation</h3>
        <pre
          tabIndex={0}
          className="figures overflow-x-auto bg-ground p-2 text-[11px]"
          data-testid="equation"
        >
          {equationText(document, group)}
        </pre>
      </section>
    </div>
  );
}

function Ports({ group: { inputs, outputs } }: Pick<Props, 'group'>) {
  const rows = [
    ['Takes', inputs],
    ['Gives', outputs],
  ] as const;
  return rows.map(([title, ports]) =>
    ports.length === 0 ? null : (
      <section key={title} aria-label={title}>
        <h3 className={HEAD}>{title}</h3>
        <ul>
          {ports.map((port) => (
            <li key={port.id}>
              <strong>{port.name}</strong> <span className="text-soft">{portWords(port)}</span>
            </li>
          ))}
        </ul>
      </section>
    ),
  );
}
