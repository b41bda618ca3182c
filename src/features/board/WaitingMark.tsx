import { useWaiting } from '@/state/releases';

/** Says on the card of a group from the library that a newer release waits, or why it should go. */
export function WaitingMark({ entryId }: { readonly entryId: string }) {
  const found = useWaiting().find((each) => each.entryId === entryId);
  if (!found) return null;
  const { newest, releaseClass, withdrawnReason, deprecatedReason } = found;
  const warning =
    withdrawnReason === null
      ? deprecatedReason === null
        ? null
        : `Deprecated: ${deprecatedReason}`
      : `Withdrawn: ${withdrawnReason}`;
  const words = warning ?? `${newest ?? ''} waits (${releaseClass ?? ''})`;
  return (
    <span
      role="img"
      title={words}
      aria-label={words}
      data-testid="waiting-mark"
      className={
        'figures ml-auto shrink-0 rounded-[2px] border px-1 text-[10px] ' +
        (warning === null ? 'border-weld' : 'border-madder text-madder')
      }
    >
      {warning === null ? `↑ ${newest ?? ''}` : '▲'}
    </span>
  );
}
