'use client';
import { DropdownMenu } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { signOut } from '@/contract/session';
import { queryClient } from '@/state/query-client';
import { useChange } from '@/state/use-call';
import { DENSITIES, THEMES, chooseAppearance, readAppearance } from '@/ui/appearance';
import type { Appearance, Density, Theme } from '@/ui/appearance';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly name: string;
  readonly role: string;
}

const ITEM = 'cursor-pointer px-3 py-1 outline-none data-[highlighted]:bg-raised';

/** Who is signed in; how the program looks; leaving. */
export function AccountMenu({ name, role }: Props) {
  const router = useRouter();
  const { mutate } = useChange(signOut);
  const [appearance, setAppearance] = useState<Appearance | null>(null);
  const leave = (): void => {
    const left = (): void => {
      // What one person read is nothing for the next.
      queryClient().clear();
      router.push('/sign-in');
      router.refresh();
    };
    mutate({ body: {} }, { onSuccess: left, onError: tellProblem });
  };
  return (
    <DropdownMenu.Root
      onOpenChange={(isOpen) => {
        if (isOpen) setAppearance(readAppearance());
      }}
    >
      <DropdownMenu.Trigger className="ml-auto max-w-[150px] min-w-[60px] truncate px-1">
        {name} <span className="text-soft">· {role}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-50 border border-seam bg-panel py-1 text-ink shadow-lg"
        >
          <Choices
            title="Theme"
            among={THEMES}
            chosen={appearance?.theme}
            onChoose={(theme) => {
              chooseAppearance({ theme: theme as Theme });
            }}
          />
          <Choices
            title="Text and controls"
            among={DENSITIES}
            chosen={appearance?.density}
            onChoose={(density) => {
              chooseAppearance({ density: density as Density });
            }}
          />
          <DropdownMenu.Separator className="my-1 border-t border-line" />
          {role === 'librarian' ? <WayTo path="/people">People and rules</WayTo> : null}
          <WayTo path="/storage">Storage</WayTo>
          <DropdownMenu.Item className={ITEM} onSelect={leave}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** The way to a page that stands in no bar. */
function WayTo({ path, children }: { readonly path: string; readonly children: string }) {
  const router = useRouter();
  return (
    <DropdownMenu.Item
      className={ITEM}
      onSelect={() => {
        router.push(path);
      }}
    >
      {children}
    </DropdownMenu.Item>
  );
}

interface ChoicesProps {
  readonly title: string;
  readonly among: Readonly<Record<string, string>>;
  readonly chosen: string | undefined;
  readonly onChoose: (value: string) => void;
}

function Choices({ title, among, chosen, onChoose }: ChoicesProps) {
  return (
    <DropdownMenu.RadioGroup value={chosen ?? ''} onValueChange={onChoose}>
      <DropdownMenu.Label className="px-3 pt-1 text-[11px] text-soft">{title}</DropdownMenu.Label>
      {Object.entries(among).map(([value, words]) => (
        <DropdownMenu.RadioItem key={value} value={value} className={`flex gap-2 ${ITEM}`}>
          <span aria-hidden className="w-3">
            {value === chosen ? '✓' : ''}
          </span>
          {words}
        </DropdownMenu.RadioItem>
      ))}
    </DropdownMenu.RadioGroup>
  );
}
