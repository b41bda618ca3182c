'use client';
import { FileInput } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useRef } from 'react';
import type { Project } from '@/contract/session';
import { missingIn } from '@/state/file-contents';
import { bringMaterialHere } from '@/state/material-files';
import { refreshMaterials } from '@/state/material-list';
import { Button } from '@/ui/Button';
import { HiddenFile, ZIP } from '@/ui/HiddenFile';
import { useAsking } from '@/ui/use-asking';
import { Menu } from '@/ui/Menu';
import { tellProblem } from '@/ui/tell-problem';
import { withProgress } from '@/ui/transfer';

/** Brings a material that was saved as a file into one of one's projects. */
export function BringFile({ projects }: { readonly projects: readonly Project[] }) {
  const input = useRef<HTMLInputElement>(null);
  const project = useRef('');
  const { ask, question } = useAsking();
  if (projects.length === 0) return null;
  const bring = async (file: File): Promise<void> => {
    if (!(await ask(file.name, await missingIn(file)))) return;
    await withProgress(
      `Bringing in ${file.name}`,
      (onProgress) => bringMaterialHere(file, project.current, onProgress),
      ({ name, isThere, missing }) => {
        const words = isThere ? `“${name}” is there already.` : `Brought in “${name}”.`;
        return words + (missing.length > 0 ? ` Missing: ${missing.join('; ')}.` : '');
      },
    );
    void refreshMaterials();
  };
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger asChild>
          <Button className="min-h-[24px] !py-0">
            <FileInput size={13} aria-hidden /> Bring a file …
          </Button>
        </DropdownMenu.Trigger>
        <Menu
          sections={() => [
            projects.map(({ id, name }) => ({
              title: `Into ${name}`,
              act: () => {
                project.current = id;
                input.current?.click();
              },
            })),
          ]}
        />
      </DropdownMenu.Root>
      {question}
      <HiddenFile
        input={input}
        label="File of a material"
        accept={ZIP}
        onFile={(file) => {
          bring(file).catch(tellProblem);
        }}
      />
    </>
  );
}
