'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { SHORTEST_PASSWORD, lookAtLink, takeLink } from '@/contract/people';
import { signIn } from '@/contract/session';
import { describeError } from '@/core/base/problem';
import { queryClient } from '@/state/query-client';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';

/** Comes into the studio by a link, or sets a new password. */
export function JoinForm() {
  const look = useChange(lookAtLink);
  const { mutate } = look;
  useEffect(() => {
    mutate({ body: { secret: secretHere() } });
  }, [mutate]);
  if (look.error) return <ProblemNote problem={describeError(look.error)} className="w-[300px]" />;
  if (!look.data) return <p role="status">Looking at the link …</p>;
  return <TakeForm {...look.data} />;
}

/** The part of the link behind #: it never reaches the server by itself, so no log has it. */
const secretHere = (): string => window.location.hash.slice(1).padEnd(20, '-');

interface TakeProps {
  readonly email: string;
  readonly name: string;
  readonly isReset: boolean;
}

/** Takes the link up and signs in. */
function useTaking({ email }: TakeProps) {
  const router = useRouter();
  const take = useChange(takeLink);
  const enter = useChange(signIn);
  const submit = async (name: string, password: string): Promise<void> => {
    await take.mutateAsync({ body: { secret: secretHere(), name: name.trim(), password } });
    await enter.mutateAsync({ body: { email, password } });
    queryClient().clear();
    router.push('/materials');
    router.refresh();
  };
  return { submit, isPending: take.isPending, failure: take.error ?? enter.error };
}

function TakeForm(props: TakeProps) {
  const { email, name: given, isReset } = props;
  const { submit, isPending, failure } = useTaking(props);
  const [name, setName] = useState(given);
  const [password, setPassword] = useState('');
  const isShort = password.length > 0 && password.length < SHORTEST_PASSWORD;
  return (
    <form
      className="w-[300px]"
      onSubmit={(event) => {
        event.preventDefault();
        // What went wrong is said below.
        submit(name, password).catch(() => undefined);
      }}
    >
      <p className="mb-4 text-soft">
        {isReset ? 'A new password for' : 'You are invited as'} <b className="text-ink">{email}</b>
      </p>
      {isReset ? null : (
        <Field label="Your name, as others see it" fault={undefined} className="mb-3">
          <input
            autoComplete="name"
            className={FIELD}
            value={name}
            onChange={(event) => {
              setName(event.target.value);
            }}
          />
        </Field>
      )}
      <Field
        label="Password"
        fault={isShort ? `At least ${String(SHORTEST_PASSWORD)} characters.` : undefined}
        className="mb-4"
      >
        <input
          type="password"
          autoComplete="new-password"
          className={FIELD}
          value={password}
          onChange={(event) => {
            setPassword(event.target.value);
          }}
        />
      </Field>
      {failure ? <ProblemNote problem={describeError(failure)} className="mb-3" /> : null}
      <Button
        look="strong"
        type="submit"
        disabled={isPending || password.length < SHORTEST_PASSWORD || name.trim().length < 2}
        className="w-full justify-center py-1.5"
      >
        {isReset ? 'Set the password and sign in' : 'Come in'}
      </Button>
    </form>
  );
}
