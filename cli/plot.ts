import { LoadedModel } from '@/core/evaluate/loaded-model';
import { TransferMeter } from '@/core/evaluate/transfer';
import type { Transfer } from '@/core/evaluate/transfer';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { readDocument } from './read-document';
import { readImages } from './read-images';
import { readModel } from './read-model';

/** Prints how one output depends on another of its board, over a model: a table or JSON. */
export async function runPlot(
  { positionals, values }: Arguments,
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  const [file] = positionals;
  const { from, to, model } = values;
  if (!file || typeof from !== 'string' || typeof to !== 'string' || typeof model !== 'string')
    throw new UsageError('plot needs a document, --from, --to and --model.');
  const document = await readDocument(file);
  await readImages(document, values['images'], complain);
  const loaded = new LoadedModel(await readModel(model, complain));
  const found = new TransferMeter().measure(loaded, document, from, to, loaded.measured);
  if (!found) throw new UsageError(`${to} does not depend on ${from}, or they share no board.`);
  if (values['json'])
    print(JSON.stringify({ format: 'bright-loom/transfer', version: 1, from, to, ...found }));
  else tell(found, print);
  return 0;
}

function tell({ x, channels, flats }: Transfer, print: (text: string) => void): void {
  const several = channels.length > 1;
  const heads = channels.flatMap((_, k) =>
    ['low', 'middle', 'high'].map((name) => (several ? `${name} ${String(k + 1)}` : name)),
  );
  print(['x', ...heads].join('\t'));
  x.forEach((at, k) => {
    const row = channels.flatMap(({ low, middle, high }) => [low[k], middle[k], high[k]]);
    print([at, ...row].map(String).join('\t'));
  });
  for (const { from, to, share, node } of flats)
    print(
      `# flat from ${from.toFixed(4)} to ${to.toFixed(4)}, ${(share * 100).toFixed(1)} % of the ` +
        `surface${node ? `, made by ${node.title}` : ''}`,
    );
}
