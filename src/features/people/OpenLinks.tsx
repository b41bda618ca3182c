'use client';
import { withdrawInvitation } from '@/contract/people';
import type { OpenInvitation } from '@/contract/people';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { tellProblem } from '@/ui/tell-problem';

interface Props {
  readonly invitations: readonly OpenInvitation[];
  readonly onChanged: () => void;
}

/** Links that were handed on and not used yet. */
export function OpenLinks({ invitations, onChanged }: Props) {
  const { mutate } = useChange(withdrawInvitation);
  if (invitations.length === 0) return null;
  return (
    <section className="mt-5 text-[12px]" aria-labelledby="links-title">
      <h2 id="links-title" className="font-semibold">
        Links not used yet
      </h2>
      <ul>
        {invitations.map(({ id, email, name, role, isReset, expiresAt }) => (
          <li key={id} className="flex items-center gap-2 border-t border-line py-1">
            <span className="min-w-0 flex-1 truncate">
              {name}, {email}: {isReset ? 'a new password' : `invited as ${role}`}
            </span>
            <span className="text-soft">
              until {new Date(expiresAt).toLocaleDateString('en-GB')}
            </span>
            <Button
              className="min-h-[24px] !py-0 text-[11.5px]"
              onClick={() => {
                const given = { params: { id }, body: {} };
                mutate(given, { onSuccess: onChanged, onError: tellProblem });
              }}
            >
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
    </section>
  );
}
