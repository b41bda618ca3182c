import { parseArgs } from 'node:util';
import { AppError, errorMessage } from '@/core/base/diagnostic';
import { describeError, problemText } from '@/core/base/problem';
import { CompileError } from '@/core/compile/compile';
import { EXPORT_FORMATS } from '@/core/handoff/formats';
import { MAP_VIEWS } from '@/core/mesh/analysis';
import { UsageError } from './arguments';
import type { Arguments } from './arguments';
import { runAnalyse } from './analyse';
import { runBackup, runRestore } from './backup';
import { runBake } from './bake';
import { runCheck } from './check';
import { runDiff } from './diff';
import { runEval } from './eval';
import { runExplain } from './explain';
import { runNodes } from './nodes';

const USAGE = `Usage:
  bright-loom nodes [--json]
      the catalogue of nodes
  bright-loom eval DOC.json --points POINTS.json [--outputs NAMES] [--json]
      values of outputs at given points
  bright-loom explain DOC.json --points POINTS.json [--json]
      every value the finished surface depends on at given points, back to the sources
  bright-loom diff A.json B.json [--model FILE.glb|demo:NAME] [--size N] [--out DIR] [--json]
      what sets two documents apart; with a model also how much of it each change accounts for, and
      with --out the pictures
  bright-loom bake DOC.json --model FILE.glb|demo:NAME [--size N] [--depth 8|16] --out DIR
      [--formats NAMES]
      the finished surface in files; NAMES with commas, out of
      ${EXPORT_FORMATS.map(([name]) => name).join(', ')}; all of them unless said
  bright-loom analyse MODEL [--maps NAMES] [--size N] --out DIR
      maps measured on a model, and what was found about it; NAMES with commas, out of
      ${[...MAP_VIEWS.keys()].join(', ')}
  bright-loom check DOC.json [--model FILE.glb|demo:NAME] [--json]
      what is wrong with a document; exit 1 if anything is; with a model also what its values say
  bright-loom backup FILE
      everything the studio holds, into one file
  bright-loom restore FILE [--replace]
      a studio out of such a file; --replace: in place of one

analyse and bake take --smooth DEGREES, --weld SHARE, --unwrap, --flip-winding: what is corrected
in the model first. eval, explain, diff, bake and check take --images FOLDER: where the images a
document names are found, by their content.

See docs/command-line.md.`;

/** Runs a command. Exit codes: 0 done, 1 the document or model is wrong, 2 the call is wrong. */
export async function main(
  argv: readonly string[],
  print: (text: string) => void,
  complain: (text: string) => void,
): Promise<number> {
  try {
    const { positionals, values } = parseArgs({
      args: [...argv],
      allowPositionals: true,
      options: {
        json: { type: 'boolean' },
        points: { type: 'string' },
        outputs: { type: 'string' },
        model: { type: 'string' },
        size: { type: 'string' },
        depth: { type: 'string' },
        out: { type: 'string' },
        images: { type: 'string' },
        maps: { type: 'string' },
        formats: { type: 'string' },
        smooth: { type: 'string' },
        weld: { type: 'string' },
        unwrap: { type: 'boolean' },
        'flip-winding': { type: 'boolean' },
        replace: { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    });
    const [command, ...rest] = positionals;
    const args: Arguments = { positionals: rest, values };
    if (values.help || command === undefined) {
      print(USAGE);
      return values.help ? 0 : 2;
    }
    switch (command) {
      case 'nodes':
        return runNodes(args, print);
      case 'eval':
        return await runEval(args, print, complain);
      case 'explain':
        return await runExplain(args, print, complain);
      case 'diff':
        return await runDiff(args, print, complain);
      case 'bake':
        return await runBake(args, print, complain);
      case 'analyse':
        return await runAnalyse(args, print, complain);
      case 'check':
        return await runCheck(args, print, complain);
      case 'backup':
        return await runBackup(args, print);
      case 'restore':
        return await runRestore(args, print);
      default:
        throw new UsageError(`There is no command “${command}”.`);
    }
  } catch (error) {
    return tellError(error, complain);
  }
}

function tellError(error: unknown, complain: (text: string) => void): number {
  if (error instanceof CompileError) {
    for (const finding of error.findings)
      complain(`${finding.pointer || '/'}: ${finding.message} [${finding.code}]`);
    return 1;
  }
  if (error instanceof AppError) {
    complain(problemText(describeError(error)));
    return 1;
  }
  complain(`bright-loom: ${errorMessage(error)}\n\n${USAGE}`);
  return 2;
}

if (process.argv[1]?.endsWith('main.ts')) {
  process.exitCode = await main(
    process.argv.slice(2),
    (text) => {
      process.stdout.write(`${text}\n`);
    },
    (text) => {
      process.stderr.write(`${text}\n`);
    },
  );
}
