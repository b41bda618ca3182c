'use client';
import { X } from 'lucide-react';
import { describePorts } from '@/core/compile/catalogue';
import { changeLaw, lawsOfDrive } from '@/core/edit/dial-laws';
import { designedNumber, drivenNumber, driveSentence } from '@/core/edit/drive-sentence';
import type { Dial, Drive, GroupDefinition, InputValue, Law } from '@/core/graph/document';
import { commit } from '@/state/editing';
import { useDocument } from '@/state/use-stores';
import { Choose } from '@/ui/Choose';
import { IconButton } from '@/ui/IconButton';
import { shortNumber } from '@/ui/NumberField';
import { titleInList } from '@/core/compile/told-apart';

interface Props {
  readonly group: GroupDefinition;
  readonly dial: Dial;
  readonly drive: Drive;
  readonly value: InputValue;
  readonly edit: (change: Partial<Dial>) => void;
}

/** What each law makes of the value that is driven. */
const LAWS: Readonly<Record<Law, string>> = {
  times: 'multiplies it',
  lift: 'adds to it',
  span: 'moves it between two ends',
  blend: 'mixes two ends',
  power: 'raises it to a power',
  'as is': 'takes its place',
};

/** One value that a dial drives, as the sentence that decides it. */
export function DriveLine({ group, dial, drive, value, edit }: Props) {
  const node = group.network.nodes.find((each) => each.id === drive.node);
  const document = useDocument((state) => state.document);
  const title = node ? titleInList(document, group.network, node) : drive.node;
  const port = node && describePorts(document, node)?.inputs.find(({ id }) => id === drive.input);
  const laws = lawsOfDrive(document, group.id, dial.id, drive);
  const designed = designedNumber(document, group, drive);
  return (
    <li className="flex items-center justify-between gap-1">
      <span className="min-w-0">
        <span className="block truncate">
          {title}, {port?.title ?? drive.input}
        </span>
        {laws.length < 2 ? (
          <em>{drive.law}</em>
        ) : (
          <Choose
            label={`Law of ${port?.title ?? drive.input} of ${title}`}
            value={drive.law}
            items={laws.map((law) => ({ value: law, title: law, help: LAWS[law] }))}
            onChange={(law) => {
              commit('Took another law', (current) =>
                changeLaw(current, group.id, dial.id, drive, law as Law),
              );
            }}
          />
        )}
        {designed !== undefined && typeof value === 'number' ? (
          <span className="figures text-soft">
            {driveSentence(designed, [{ dial, drive, at: value }])}
            {designed === null
              ? ''
              : ` = ${shortNumber(drivenNumber(designed, [{ dial, drive, at: value }]))}`}
          </span>
        ) : null}
      </span>
      {dial.drives.length > 1 ? (
        <IconButton
          name={`Drive ${title} no more`}
          onClick={() => {
            edit({ drives: dial.drives.filter((each) => each !== drive) });
          }}
        >
          <X size={11} />
        </IconButton>
      ) : null}
    </li>
  );
}
