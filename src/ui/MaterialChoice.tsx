'use client';
import { Command } from 'cmdk';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import type { MaterialSummary } from '@/contract/materials';
import { describeError } from '@/core/base/problem';
import { ProblemNote } from './ProblemNote';
import { Swatch } from './Swatch';

interface Search {
  readonly isOpen: boolean;
  readonly onOpen: (isOpen: boolean) => void;
  readonly query: string;
  readonly onQuery: (query: string) => void;
  readonly found: readonly MaterialSummary[] | null;
  readonly hasMore: boolean;
  readonly error: Error | null;
}
interface Props {
  /** What is chosen, for those who hear it. */
  readonly label: string;
  /** What the button shows. */
  readonly title: string;
  readonly search: Search;
  /** A choice that is no material, above them. */
  readonly instead?: { readonly title: string; readonly onChoose: () => void };
  readonly isStrong?: boolean;
  readonly onChoose: (material: MaterialSummary) => void;
}

const PLAIN = 'h-[24px] min-w-[90px] border-line bg-ground px-1.5 text-[12px]';
const STRONG = 'border-weld bg-weld px-2.5 py-1 font-semibold text-weld-ink';

/** One of all materials one may see, found by words, the one saved last first. */
export function MaterialChoice({ isStrong = false, ...given }: Props) {
  const { label, title, search } = given;
  return (
    <Popover.Root modal open={search.isOpen} onOpenChange={search.onOpen}>
      <Popover.Trigger
        aria-label={label === title ? undefined : `${label}: ${title}`}
        className={
          'inline-flex max-w-[220px] items-center justify-between gap-1 rounded-[2px] border ' +
          `whitespace-nowrap ${isStrong ? STRONG : PLAIN}`
        }
      >
        <span className="truncate">{title}</span>
        <ChevronDown size={12} aria-hidden />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={2}
          collisionPadding={8}
          aria-label={label}
          className="z-50 w-[320px] border border-seam bg-panel text-[12px] text-ink shadow-lg"
        >
          <Command shouldFilter={false} label={label}>
            <Command.Input
              autoFocus
              value={search.query}
              onValueChange={search.onQuery}
              placeholder="Name, model, person, project"
              className="w-full border-b border-line bg-transparent px-2 py-1.5"
            />
            <FoundList {...given} />
          </Command>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const ITEM = 'flex cursor-pointer items-center gap-2 px-1.5 py-1 data-[selected=true]:bg-raised';

function FoundList({ search, instead, onChoose }: Omit<Props, 'isStrong'>) {
  const { query, found, hasMore, error, onOpen } = search;
  const choosing = (act: () => void) => (): void => {
    act();
    onOpen(false);
  };
  return (
    <>
      <Command.List className="max-h-[320px] overflow-auto p-1">
        {instead && query === '' ? (
          <Command.Item value="instead" className={ITEM} onSelect={choosing(instead.onChoose)}>
            {instead.title}
          </Command.Item>
        ) : null}
        {found?.map((material) => (
          <Command.Item
            key={material.id}
            value={material.id}
            className={ITEM}
            onSelect={choosing(() => {
              onChoose(material);
            })}
          >
            <Swatch hash={material.swatchHash} label="" className="h-8 w-8 shrink-0" />
            <span className="min-w-0 truncate">{material.name}</span>
            <span className="ml-auto max-w-[40%] truncate text-soft">{material.projectName}</span>
          </Command.Item>
        ))}
        {found?.length === 0 ? (
          <Command.Empty className="px-2 py-1 text-soft">
            No material is called or made on that.
          </Command.Empty>
        ) : null}
      </Command.List>
      {hasMore ? (
        <p className="border-t border-line px-2 py-1 text-soft">
          The {found?.length} saved last; words find the others.
        </p>
      ) : null}
      {error ? <ProblemNote problem={describeError(error)} /> : null}
    </>
  );
}
