import { JoinForm } from '@/features/account/JoinForm';

export default function JoinPage() {
  return (
    <main className="board-warp grid h-full place-items-center">
      <div className="border border-line bg-panel p-8">
        <h1 className="mb-1 text-[22px] font-semibold">Bright Loom</h1>
        <JoinForm />
      </div>
    </main>
  );
}
