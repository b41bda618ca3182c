'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from '@/ui/Button';

/** Signs in by e-mail and password. */
export function SignInForm() {
  const router = useRouter();
  const [message, setMessage] = useState('');
  const [busy, setBusy] = useState(false);
  const submit = async (form: FormData): Promise<void> => {
    setBusy(true);
    setMessage('');
    try {
      const response = await fetch('/api/auth/sign-in/email', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ email: form.get('email'), password: form.get('password') }) });
      if (response.ok) { router.push('/materials'); router.refresh(); return; }
      setMessage(response.status === 401 ? 'E-mail and password do not belong together.' : response.status === 429 ? 'Too many attempts. Wait a minute, then try again.' : 'The server cannot sign anybody in at the moment. Try again shortly.');
    } catch {
      setMessage('The server cannot be reached. Is it still running?');
    }
    setBusy(false);
  };
  const field = 'mt-1 w-full border border-line bg-ground px-2 py-1.5';
  return (
    <form className="w-[300px]" onSubmit={(event) => { event.preventDefault(); void submit(new FormData(event.currentTarget)); }}>
      <label className="mb-3 block">E-mail<input name="email" type="email" required autoComplete="username" className={field} /></label>
      <label className="mb-4 block">Password<input name="password" type="password" required autoComplete="current-password" className={field} /></label>
      {message ? <p role="alert" className="mb-3 text-madder">{message}</p> : null}
      <Button look="strong" type="submit" disabled={busy} className="w-full justify-center py-1.5">Sign in</Button>
    </form>
  );
}
