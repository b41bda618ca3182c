import { hasErrors } from '@/core/base/diagnostic';
import { inspectDocument } from '@/core/advice/open-ends';
import { adviseDocument } from '@/core/advice/advise';
import { watchedIn } from '@/core/advice/watched';
import type { PlacedAdvice } from '@/core/advice/advise';
import { EvaluationSession } from '@/core/evaluate/session';
import type { NetworkDocument } from '@/core/graph/document';
import { readStoredText } from '@/core/compile/upgrade';
import { MeshAnalysis } from '@/core/mesh/analysis';
import { uniformPoints } from '@/core/mesh/sample-points';
import type { SurfaceMesh } from '@/core/mesh/surface-mesh';
import type { Arguments } from './arguments';
import { UsageError } from './arguments';
import { readText } from './read-document';
import { readImages } from './read-images';
import { readModel } from './read-model';

/** Points over the surface at which values are judged, as in the editor. */
const POINTS = 4096;
const MAP_SIZE = 256;

function adviseOnModel(document: NetworkDocument, mesh: SurfaceMesh): readonly PlacedAdvice[] {
  const session = new EvaluationSession({
    surface: true,
    taps: 'all',
    watched: watchedIn(document),
  });
  const analysis = new MeshAnalysis(mesh);
  const lanes = session.evaluate(document, mesh, uniformPoints(mesh, POINTS), (settings, detail) =>
    analysis.quickMap(settings, MAP_SIZE, detail),
  );
  return adviseDocument(document, session.prepare(document), lanes);
}

export async function runCheck(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  if (!file) throw new UsageError('check needs a document.');
  const parsed = readStoredText(await readText(file));
  const findings = parsed.document ? inspectDocument(parsed.document) : parsed.diagnostics;
  const wrong = hasErrors(findings);
  const model = values['model'];
  if (parsed.document && typeof model === 'string')
    await readImages(parsed.document, values['images'], complain);
  const advice =
    parsed.document && !wrong && typeof model === 'string'
      ? adviseOnModel(parsed.document, await readModel(model, complain))
      : [];
  if (values['json'])
    print(JSON.stringify({ valid: !wrong, diagnostics: [...findings, ...advice] }, null, 2));
  else {
    for (const finding of findings)
      complain(
        `${finding.severity}: ${finding.pointer || '/'}: ${finding.message} [${finding.code}]`,
      );
    for (const finding of advice)
      complain(`note: ${finding.pointer}: ${finding.message} [${finding.code}]`);
    const warnings = findings.filter(({ severity }) => severity === 'warning').length;
    if (!wrong) print(`${file}: no errors${warnings > 0 ? `, ${String(warnings)} warnings` : ''}.`);
  }
  return wrong ? 1 : 0;
}
