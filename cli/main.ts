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
import { runPeople } from './people';
import { runPlot } from './plot';

const USAGE = `Usage:
  bright-loom nodes [--json]
      the catalogue of nodes
  bright-loom eval DOC.json --points POINTS.json [--outputs NAMES] [--json]
      values of outputs at given points
  bright-loom explain DOC.json --points POINTS.json [--json]
      every value the finished surface depends on at given points, back to the sources
  bright-loom plot DOC.json --from NODE:OUTPUT --to NODE:OUTPUT --model FILE.glb|demo:NAME
      [--json]
      what comes out for what arrives, over a model, and where range is lost
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
  bright-loom people [list]
  bright-loom people invite EMAIL NAME artist|author|librarian [PROJECT ...]
  bright-loom people password|close|open EMAIL
  bright-loom people role EMAIL artist|author|librarian
      who is in the studio; links by which somebody comes in or sets a new password
  bright-loom backup FILE
      everything the studio holds, into one file
  bright-loom restore FILE [--replace]
      a studio out of such a file; --replace: in place of one

analyse and bake take --smooth DEGREES, --weld SHARE, --unwrap, --flip-winding: what is corrected
in the model first. eval, explain, plot, diff, bake and check take --images FOLDER: where the
images a document names are found, by their content.

See docs/command-line.md.`;

type Tell = (text: string) => void;
type Command = (args: Arguments, print: Tell, complain: Tell) => number | Promise<number>;
const COMMANDS: ReadonlyMap<string, Command> = new Map<string, Command>([
  ['nodes', runNodes],
  ['eval', runEval],
  ['explain', runExplain],
  ['plot', runPlot],
  ['diff', runDiff],
  ['bake', runBake],
  ['analyse', runAnalyse],
  ['check', runCheck],
  ['people', runPeople],
  ['backup', runBackup],
  ['restore', runRestore],
]);

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
        from: { type: 'string' },
        to: { type: 'string' },
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
    const run = COMMANDS.get(command);
    if (!run) throw new UsageError(`There is no command “${command}”.`);
    return await run(args, print, complain);
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
  // Whoever reads, such as `head`, may have seen enough.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error;
    process.exit(0);
  });
  const writeTo = (stream: NodeJS.WriteStream) => (text: string) => {
    stream.write(`${text}\n`);
  };
  const run = main(process.argv.slice(2), writeTo(process.stdout), writeTo(process.stderr));
  void run.then((code) => {
    process.exitCode = code;
  });
}
