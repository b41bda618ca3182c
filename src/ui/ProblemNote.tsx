import type { Diagnostic } from '@/core/base/diagnostic';
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
  const { message, kept, action, code, findings = [] } = problem;
  return (
    <div
      role="alert"
      data-testid={testId}
      title={code}
      className={`border-l-2 border-madder bg-ground px-2 py-1 text-[12px] ${className}`}
    >
      <p className="font-semibold">{message}</p>
      {findings.length > 1 ? <FindingLines findings={findings} /> : null}
      {kept || action ? (
        <p className="text-soft">{[kept, action].filter(Boolean).join(' ')}</p>
      ) : null}
    </div>
  );
}

/** So many are written out; the rest are counted. */
const LINES = 8;

function FindingLines({ findings }: { readonly findings: readonly Diagnostic[] }) {
  const rest = findings.length - LINES;
  return (
    <ul className="my-1 list-disc pl-4">
      {findings.slice(0, LINES).map((finding) => (
        <li key={`${finding.pointer} ${finding.code}`}>{finding.message}</li>
      ))}
      {rest > 0 ? <li>and {rest} more</li> : null}
    </ul>
  );
}
