'use client';
import { DropdownMenu } from 'radix-ui';
import { useRouter } from 'next/navigation';
import { signOut } from '@/contract/session';
import { queryClient } from '@/state/query-client';
import { useChange } from '@/state/use-call';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly name: string;
  readonly role: string;
}

/** Who is signed in; theme and leaving. */
export function AccountMenu({ name, role }: Props) {
  const router = useRouter();
  const { mutate } = useChange(signOut);
  const leave = (): void => {
    const left = (): void => {
      // What one person read is nothing for the next.
      queryClient().clear();
      router.push('/sign-in');
      router.refresh();
    };
    mutate({ body: {} }, { onSuccess: left, onError: tellProblem });
  };
  const theme = (): void => {
    const root = document.documentElement;
    root.dataset['theme'] = root.dataset['theme'] === 'linen' ? 'basalt' : 'linen';
  };
  const item = 'cursor-pointer px-3 py-1 outline-none data-[highlighted]:bg-raised';
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="ml-auto max-w-[150px] min-w-[60px] truncate px-1">
        {name} <span className="text-soft">· {role}</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          className="z-50 border border-seam bg-panel py-1 text-ink shadow-lg"
        >
          <DropdownMenu.Item className={item} onSelect={theme}>
            Switch between basalt and linen
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={leave}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
