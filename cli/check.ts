import { hasErrors } from '@/core/base/diagnostic';
import { checkCompiled } from '@/core/compile/compile';
import { parseDocumentText } from '@/core/graph/schema';
import type { Arguments } from './arguments';
import { UsageError } from './arguments';
import { readText } from './read-document';

export async function runCheck({ positionals, values }: Arguments, print: (text: string) => void, complain: (text: string) => void): Promise<number> {
  const [file] = positionals;
  if (!file) throw new UsageError('check needs a document.');
  const parsed = parseDocumentText(await readText(file));
  const findings = parsed.document ? checkCompiled(parsed.document) : parsed.diagnostics;
  const wrong = hasErrors(findings);
  if (values['json']) print(JSON.stringify({ valid: !wrong, diagnostics: findings }, null, 2));
  else {
    for (const finding of findings) complain(`${finding.severity}: ${finding.pointer || '/'}: ${finding.message} [${finding.code}]`);
    if (!wrong) print(`${file}: no errors${findings.length > 0 ? `, ${String(findings.length)} warnings` : ''}.`);
  }
  return wrong ? 1 : 0;
}
