import { compileNetwork } from '@/core/compile/compile';
import { explainRequest, explanationTable, readExplanation } from '@/core/explain/explain-points';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { evaluatePoints } from './evaluate-points';
import { readPoints } from './points-file';
import { readDocument } from './read-document';
import { readImages } from './read-images';

/** Prints every value that the finished surface depends on at given points, as a table or JSON. */
export async function runExplain(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  const pointsFile = values['points'];
  if (!file || typeof pointsFile !== 'string')
    throw new UsageError('explain needs a document and --points.');
  const document = await readDocument(file);
  const points = await readPoints(pointsFile);
  await readImages(document, values['images'], complain);
  const compiled = compileNetwork(document, explainRequest(document));
  const explanation = readExplanation(
    document,
    compiled,
    evaluatePoints(compiled, document, points),
  );
  print(
    values['json']
      ? // Numbers that are none have no form in JSON; they are written as text.
        JSON.stringify(
          { format: 'bright-loom/explanation', version: 1, ...explanation },
          (_name, value: unknown) =>
            typeof value === 'number' && !Number.isFinite(value) ? String(value) : value,
        )
      : explanationTable(explanation),
  );
  return 0;
}
