'use client';
import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import { credentialsForm, signIn } from '@/contract/session';
import { describeError } from '@/core/base/problem';
import { queryClient } from '@/state/query-client';
import { useChange } from '@/state/use-call';
import { Button } from '@/ui/Button';
import { FIELD, Field } from '@/ui/Field';
import { ProblemNote } from '@/ui/ProblemNote';
import { contractResolver } from '@/ui/contract-form';

/** Signs in by e-mail and password. */
export function SignInForm() {
  const router = useRouter();
  const { mutate, isPending, isSuccess, error } = useChange(signIn);
  // Without values of its own it takes what was filled in before the page ran.
  const { register, handleSubmit, formState } = useForm({
    resolver: contractResolver(credentialsForm),
  });
  const { errors } = formState;
  const submit = handleSubmit((body) => {
    const enter = (): void => {
      queryClient().clear();
      router.push('/materials');
      router.refresh();
    };
    mutate({ body }, { onSuccess: enter });
  });
  return (
    <form className="w-[300px]" noValidate onSubmit={(event) => void submit(event)}>
      <Field label="E-mail" fault={errors.email?.message} className="mb-3">
        <input type="email" autoComplete="username" className={FIELD} {...register('email')} />
      </Field>
      <Field label="Password" fault={errors.password?.message} className="mb-4">
        <input
          type="password"
          autoComplete="current-password"
          className={FIELD}
          {...register('password')}
        />
      </Field>
      {error ? <ProblemNote problem={describeError(error)} className="mb-3" /> : null}
      <Button
        look="strong"
        type="submit"
        disabled={isPending || isSuccess}
        className="w-full justify-center py-1.5"
      >
        Sign in
      </Button>
    </form>
  );
}
