import { SignInForm } from '@/features/account/SignInForm';

export default function SignInPage() {
  return (
    <main className="board-warp grid h-full place-items-center">
      <div className="border border-line bg-panel p-8">
        <h1 className="mb-1 text-[22px] font-semibold">Bright Loom</h1>
        <p className="mb-5 text-soft">Material networks for the studio</p>
        <SignInForm />
      </div>
    </main>
  );
}
