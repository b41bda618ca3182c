import type { Problem } from '@/core/base/problem';

interface Props {
  readonly problem: Problem;
  readonly className?: string;
  readonly testId?: string;
}

/**
 * What went wrong, what was kept and what to do. The only place where a problem is shown on a page.
 */
export function ProblemNote({ problem, className = '', testId = 'problem' }: Props) {
  const { message, kept, action, code } = problem;
  return (
    <div
      role="alert"
      data-testid={testId}
      title={code}
      className={`border-l-2 border-madder bg-ground px-2 py-1 text-[12px] ${className}`}
    >
      <p className="font-semibold">{message}</p>
      {kept || action ? (
        <p className="text-soft">{[kept, action].filter(Boolean).join(' ')}</p>
      ) : null}
    </div>
  );
}
