'use client';
import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import { withdrawRelease, withdrawalForm } from '@/contract/library';
import { describeError } from '@/core/base/problem';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { contractResolver } from '@/ui/contract-form';

/** Asks why a release is withdrawn, and withdraws it. */
export function Withdrawal({
  entryId,
  version,
  onDone,
}: {
  readonly entryId: string;
  readonly version: string;
  readonly onDone: () => void;
}) {
  const router = useRouter();
  const { mutate, error, isPending } = useChange(withdrawRelease);
  const { register, handleSubmit, formState } = useForm({
    resolver: contractResolver(withdrawalForm),
    defaultValues: { version, reason: '' },
  });
  const submit = handleSubmit((body) => {
    const withdrawn = (): void => {
      onDone();
      router.refresh();
    };
    mutate({ params: { id: entryId }, body }, { onSuccess: withdrawn });
  });
  return (
    <form className="mt-1 flex items-start gap-2" onSubmit={(event) => void submit(event)}>
      <div className="flex-1">
        <input
          aria-label="Why it is withdrawn"
          placeholder="Why? Users will read this."
          className={FIELD}
          {...register('reason')}
        />
        {formState.errors.reason ? (
          <p role="alert" className="text-madder">
            {formState.errors.reason.message}
          </p>
        ) : null}
        {error ? <ProblemNote problem={describeError(error)} className="mt-1" /> : null}
      </div>
      <Button type="submit" look="strong" disabled={isPending}>
        Withdraw {version}
      </Button>
      <Button onClick={onDone}>Keep it</Button>
    </form>
  );
}
