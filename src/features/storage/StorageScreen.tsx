'use client';
import { useState } from 'react';
import { toast } from 'sonner';
import { readStorage, tidyStudio } from '@/contract/storage';
import type { ProjectUse, Storage } from '@/contract/storage';
import { describeError } from '@/core/base/problem';
import { call } from '@/state/api';
import { useCall } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { ProblemNote } from '@/ui/ProblemNote';
import { tellProblem } from '@/ui/tell-problem';
import { Holdings } from './Holdings';
import { LimitForm } from './LimitForm';
import { shortMoment } from '@/ui/moments';
import { KINDS, sizeWords } from './sizes';

/** How much room each project takes, of how much; what takes most of it, and whose it is. */
export function StorageScreen({ isLibrarian }: { readonly isLibrarian: boolean }) {
  const { data, error } = useCall(readStorage);
  const [open, setOpen] = useState<string | null>(null);
  if (error && !data) return <ProblemNote problem={describeError(error)} />;
  if (!data) return <p role="status">Adding up …</p>;
  const idOf = ({ id }: ProjectUse): string => id ?? 'studio';
  const largest = Math.max(1, ...data.projects.map((each) => each.quotaBytes ?? each.usedBytes));
  const shown = data.projects.find((each) => idOf(each) === open) ?? data.projects[0];
  return (
    <div className="grid max-w-[1500px] grid-cols-[minmax(0,1.2fr)_minmax(360px,1fr)] gap-6">
      <section aria-labelledby="storage-title">
        <h1 id="storage-title" className="mb-2 text-[18px] font-semibold">
          Storage
        </h1>
        <ul className="flex flex-col gap-1">
          {data.projects.map((project) => (
            <li key={idOf(project)}>
              <ProjectBar
                project={project}
                largest={largest}
                isOpen={project === shown}
                onOpen={() => {
                  setOpen(idOf(project));
                }}
              />
            </li>
          ))}
        </ul>
        <Legend />
        <StudioOwn storage={data} isLibrarian={isLibrarian} />
      </section>
      {shown ? (
        <section aria-label={`What ${shown.name} holds`}>
          <h2 className="mb-2 text-[15px] font-semibold">{shown.name}</h2>
          {isLibrarian && shown.id !== null ? (
            <LimitForm key={shown.id} id={shown.id} quotaBytes={shown.quotaBytes} />
          ) : null}
          <Holdings id={idOf(shown)} />
        </section>
      ) : null}
    </div>
  );
}

interface BarProps {
  readonly project: ProjectUse;
  /** The bytes of a bar of full length. */
  readonly largest: number;
  readonly isOpen: boolean;
  readonly onOpen: () => void;
}

function ProjectBar({ project, largest, isOpen, onOpen }: BarProps) {
  const { name, quotaBytes, usedBytes, parts } = project;
  const isFull = quotaBytes !== null && usedBytes > quotaBytes;
  return (
    <button
      type="button"
      aria-pressed={isOpen}
      onClick={onOpen}
      className={
        'w-full border-l-2 px-2 py-1.5 text-left hover:bg-panel ' +
        (isOpen ? 'border-weld bg-panel' : 'border-transparent')
      }
    >
      <span className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1 truncate font-semibold">{name}</span>
        <span className={`figures ${isFull ? 'text-madder' : 'text-soft'}`}>
          {sizeWords(usedBytes)}
          {quotaBytes === null ? '' : ` of ${sizeWords(quotaBytes)}`}
        </span>
      </span>
      <span
        aria-hidden
        className="mt-1 flex h-2 bg-ground"
        style={{ width: `${String((100 * Math.max(quotaBytes ?? 0, usedBytes)) / largest)}%` }}
      >
        {parts.map(({ kind, bytes }) => (
          <span
            key={kind}
            className={KINDS[kind].colour}
            style={{
              width: `${String((100 * bytes) / Math.max(1, quotaBytes ?? 0, usedBytes))}%`,
            }}
          />
        ))}
      </span>
      <span className="block text-[12px] text-soft">
        {parts
          .map(
            ({ kind, things, bytes }) =>
              `${String(things)} ${KINDS[kind].words}, ${sizeWords(bytes)}`,
          )
          .join(' · ') || 'Nothing yet'}
      </span>
    </button>
  );
}

function Legend() {
  return (
    <p className="mt-2 flex flex-wrap gap-4 px-2 text-[12px] text-soft">
      {Object.entries(KINDS).map(([kind, { words, colour }]) => (
        <span key={kind} className="flex items-center gap-1.5">
          <span aria-hidden className={`inline-block h-2.5 w-2.5 ${colour}`} />
          {words}
          {kind === 'material' ? ', with all revisions' : ''}
        </span>
      ))}
    </p>
  );
}

/** What the studio made by itself, and how it is kept in order. */
function StudioOwn({
  storage: { maps, pictures, tidied },
  isLibrarian,
}: {
  readonly storage: Storage;
  readonly isLibrarian: boolean;
}) {
  return (
    <div className="mt-5 border-t border-line px-2 pt-3 text-[12px]">
      <p>
        Made by the studio itself, and counted for no project: measured maps{' '}
        <span className="figures">{sizeWords(maps)}</span>, pictures{' '}
        <span className="figures">{sizeWords(pictures)}</span>.
      </p>
      <p className="mt-1 text-soft">
        Once a day histories are thinned out: all revisions of two days stay, then one an hour,
        after thirty days one a day. What is named, published or taken stays, and so do the first
        and the newest. Pictures and maps that nobody can reach are removed.
      </p>
      <p className="mt-1 text-soft">
        {tidied === null
          ? 'That has not been done yet.'
          : `Last done ${shortMoment(tidied.at)}: ${tidied.words}.`}
      </p>
      {isLibrarian ? (
        <Button
          className="mt-2"
          onClick={() => {
            call(tidyStudio, { body: {} }).then(() => {
              toast('It is being put in order; the page Work shows how far it is.');
            }, tellProblem);
          }}
        >
          Put it in order now
        </Button>
      ) : null}
    </div>
  );
}
