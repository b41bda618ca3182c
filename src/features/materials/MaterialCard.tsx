'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Checkbox, DropdownMenu } from 'radix-ui';
import { Check, MoreHorizontal } from 'lucide-react';
import { toast } from 'sonner';
import { arrangeMaterial, duplicateMaterial } from '@/contract/materials';
import type { MaterialSummary } from '@/contract/materials';
import type { Project } from '@/contract/session';
import { call } from '@/state/api';
import { refreshMaterials } from '@/state/material-list';
import { readMaterialFile, readMaterialText } from '@/state/material-files';
import { Menu } from '@/ui/Menu';
import type { MenuItem } from '@/ui/Menu';
import { Swatch } from '@/ui/Swatch';
import { saveWithProgress } from '@/ui/transfer';
import { tellProblem } from '@/ui/tell-problem';
import { KeepStarter } from './KeepStarter';
import { NameField } from '@/ui/NameField';

interface Props {
  readonly material: MaterialSummary;
  readonly projects: readonly Project[];
  /** Whether its project is told: where the list holds several. */
  readonly showsProject: boolean;
  readonly isChosen: boolean;
  readonly onChoose: (isChosen: boolean) => void;
}

type Place = { readonly projectId: string } | { readonly isArchived: boolean };

/** How long ago something was, in words. */
function since(moment: string): string {
  const minutes = (Date.now() - Date.parse(moment)) / 60_000;
  const relative = new Intl.RelativeTimeFormat('en', { numeric: 'auto' });
  if (minutes < 1) return 'just now';
  if (minutes < 60) return relative.format(-Math.round(minutes), 'minute');
  if (minutes < 24 * 60) return relative.format(-Math.round(minutes / 60), 'hour');
  return relative.format(-Math.round(minutes / 1440), 'day');
}

/** A material with all it needs as a file of its own. */
const fileItem = ({ id, name }: MaterialSummary): MenuItem => ({
  title: 'Save as a file',
  help: 'A zip with its groups, images and model',
  act: () => {
    saveWithProgress(`${name}.zip`, (onProgress) => readMaterialFile(id, onProgress));
  },
});

/** A small material as text: pasted on the start page, it is another. */
const textItem = ({ id, name }: MaterialSummary): MenuItem => ({
  title: 'Copy as text',
  help: 'Pasted on a start page it is a material there; without images and model',
  act: () => {
    readMaterialText(id)
      .then(async (text) => {
        if (text === null) toast(`“${name}” is too large for text: save it as a file.`);
        else {
          await navigator.clipboard.writeText(text);
          toast(`“${name}” is on the clipboard as text.`);
        }
      })
      .catch(tellProblem);
  },
});

/** Does something with a material, says what was done, and reads the list anew. */
function actOn(work: () => Promise<string>): void {
  work().then((words) => {
    toast(words);
    void refreshMaterials();
  }, tellProblem);
}

/** What can be done with a material as a thing; the list is read anew after each. */
function useActs(
  { material, projects }: Pick<Props, 'material' | 'projects'>,
  startRenaming: () => void,
  keep: () => void,
) {
  const { id, name, projectId } = material;
  const act = (words: string, work: () => Promise<unknown>): void => {
    actOn(() => work().then(() => words));
  };
  const arrange = (words: string, body: Place): void => {
    act(words, () => call(arrangeMaterial, { params: { id }, body }));
  };
  const elsewhere = projects.filter((project) => project.id !== projectId);
  const own: readonly MenuItem[] = [
    { title: 'Rename …', act: startRenaming },
    {
      title: 'Duplicate',
      act: () => {
        actOn(async () => {
          const copy = await call(duplicateMaterial, { params: { id }, body: { projectId } });
          return `Made “${copy.name}”`;
        });
      },
    },
    fileItem(material),
    textItem(material),
    { title: 'Keep as a starter …', help: 'New materials may begin from it', act: keep },
  ];
  const moves = elsewhere.map((project): MenuItem => ({
    title: `Move to ${project.name}`,
    act: () => {
      arrange(`Moved “${name}” to ${project.name}`, { projectId: project.id });
    },
  }));
  const archive: MenuItem = material.isArchived
    ? {
        title: 'Restore',
        act: () => {
          arrange(`“${name}” is back`, { isArchived: false });
        },
      }
    : {
        title: 'Archive',
        help: 'Nothing is lost; it leaves this list',
        act: () => {
          arrange(`Archived “${name}”`, { isArchived: true });
        },
      };
  return { sections: () => [own, moves, [archive]], act };
}

/** A material: its picture, its name and where it is at; what can be done with it in a menu. */
export function MaterialCard(props: Props) {
  const { material, showsProject, isChosen, onChoose } = props;
  const [isRenaming, setRenaming] = useState(false);
  const [isKeeping, setKeeping] = useState(false);
  const { sections, act } = useActs(
    props,
    () => {
      setRenaming(true);
    },
    () => {
      setKeeping(true);
    },
  );
  const { id, name } = material;
  return (
    <li
      className={
        'group relative border bg-panel ' +
        (isChosen ? 'border-weld' : 'border-line hover:border-seam')
      }
    >
      <CardLink {...{ material, showsProject }} isNamed={!isRenaming} />
      {isRenaming ? (
        <NameField
          label={`New name of ${name}`}
          act="Rename"
          name={name}
          longest={200}
          className="absolute inset-x-1 bottom-1 bg-panel p-1"
          onName={(next) => {
            setRenaming(false);
            if (next !== null && next !== name)
              act(`Renamed to “${next}”`, () =>
                call(arrangeMaterial, { params: { id }, body: { name: next } }),
              );
          }}
        />
      ) : null}
      {isKeeping ? (
        <KeepStarter
          material={material}
          onClose={() => {
            setKeeping(false);
          }}
        />
      ) : null}
      <ThingMenu name={name} sections={sections} />
      <CardTick name={name} isChosen={isChosen} onChoose={onChoose} />
    </li>
  );
}

interface LinkProps extends Pick<Props, 'material' | 'showsProject'> {
  /** False while its name is being changed. */
  readonly isNamed: boolean;
}
/** The picture and the words of a card: they lead to the material. */
function CardLink({ material, showsProject, isNamed }: LinkProps) {
  const { id, name, modelName, projectName, ownerName, head, updatedAt, swatchHash } = material;
  return (
    <Link href={`/materials/${id}`} className="block" title={name}>
      <Swatch
        hash={swatchHash}
        label={`${name} on ${modelName}`}
        className="aspect-[4/3] w-full bg-stage object-contain p-1"
      />
      {isNamed ? (
        <span className="line-clamp-2 px-2 pt-1.5 text-[14px] leading-[1.25] font-semibold">
          {name}
        </span>
      ) : null}
      <span className="block truncate px-2 text-[12px] text-soft">
        {showsProject ? `${modelName}, ${projectName}` : modelName}
      </span>
      <span className="block px-2 pb-1.5 text-[12px] text-soft">
        {/* A minute may pass between the server and the browser. */}
        {ownerName}, <span suppressHydrationWarning>{since(updatedAt)}</span>
        <span className="figures float-right" title={`Revision ${String(head)}`}>
          r{head}
        </span>
      </span>
    </Link>
  );
}

interface TickProps extends Pick<Props, 'isChosen' | 'onChoose'> {
  readonly name: string;
}
/** Chooses a card among others, for what is done with several at once. */
function CardTick({ name, isChosen, onChoose }: TickProps) {
  return (
    <Checkbox.Root
      aria-label={`Choose ${name}`}
      checked={isChosen}
      onCheckedChange={(next) => {
        onChoose(next === true);
      }}
      className={
        'absolute top-1 left-1 grid h-[24px] w-[24px] place-items-center border border-line ' +
        'bg-panel opacity-0 group-hover:opacity-100 hover:bg-raised focus-visible:opacity-100 ' +
        'data-[state=checked]:opacity-100'
      }
    >
      <Checkbox.Indicator>
        <Check size={14} aria-hidden />
      </Checkbox.Indicator>
    </Checkbox.Root>
  );
}

interface MenuProps {
  readonly name: string;
  readonly sections: () => readonly (readonly MenuItem[])[];
}

function ThingMenu({ name, sections }: MenuProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={`What to do with ${name}`}
        className={
          'absolute top-1 right-1 grid h-[24px] w-[24px] place-items-center border ' +
          'border-line bg-panel opacity-0 group-hover:opacity-100 hover:bg-raised ' +
          'focus-visible:opacity-100 data-[state=open]:opacity-100'
        }
      >
        <MoreHorizontal size={14} />
      </DropdownMenu.Trigger>
      <Menu sections={sections} />
    </DropdownMenu.Root>
  );
}
