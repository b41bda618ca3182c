/**
 * Checks the direction of imports, and that the checker itself still sees the project and catches a
 * breach.
 */
import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '..');
const LEAST_MODULES = 500;
interface Summary {
  readonly totalCruised: number;
  readonly violations: readonly {
    readonly from: string;
    readonly to: string;
    readonly rule: { readonly name: string };
  }[];
}

function cruise(): Summary {
  const result = spawnSync(
    'node_modules/.bin/depcruise',
    ['src', 'cli', '--config', '.dependency-cruiser.cjs', '--output-type', 'json'],
    { cwd: root, encoding: 'utf8', maxBuffer: 1 << 28 },
  );
  if (!result.stdout.startsWith('{'))
    throw new Error(`dependency-cruiser failed:\n${result.stderr}`);
  return (JSON.parse(result.stdout) as { summary: Summary }).summary;
}

/** Files that each break a rule on purpose; they exist only while this runs. */
const BREACHES: readonly (readonly [string, string, string | null])[] = [
  ['src/core/base/breach.ts', "export * from '../ir/types';", 'base-is-leaf'],
  ['src/core/mesh/breach.ts', "export * from '../graph/document';", 'graph-mesh-ir-only-base'],
  ['src/core/nodes/breach.ts', "export * from '../mesh/topology';", 'nodes-only-ir'],
  ['src/core/backends/glsl/breach.ts', "export * from '../wasm/emit';", 'backends-only-ir'],
  ['src/core/compile/breach.ts', "export * from '../../state/api';", 'core-is-pure'],
  ['src/core/evaluate/breach.ts', "export * from 'three';", 'core-packages'],
  ['src/core/surface/breach-late.ts', "export * from '../handoff/formats';", 'handoff-last'],
  ['src/core/exchange/breach.ts', "export * from '../evaluate/draw';", 'exchange-before-evaluate'],
  ['src/workers/breach.ts', "export * from '../state/api';", 'workers-only-core'],
  ['src/features/board/breach.ts', "export * from '../stage/Stage';", 'features-separate'],
  ['src/state/breach.ts', "export * from '../db/client';", 'client-not-server'],
  ['src/app/api/breach.ts', "export * from '../../db/client';", 'app-not-db'],
  ['src/contract/breach.ts', "export * from '../server/settings';", 'contract-only-core'],
  ['src/server/breach.ts', "export * from '../ui/Button';", 'server-not-client'],
  ['src/ui/breach.ts', "export * from '../state/api';", 'ui-is-shared'],
  ['src/app/breach.ts', "export * from 'drizzle-orm';", 'sql-only-in-db'],
  ['src/core/surface/breach.ts', "export * from 'node:fs';", 'core-no-node'],
  ['src/core/edit/breach.ts', "export * from 'joi';", 'joi-only-in-graph'],
  ['src/core/ir/breach.ts', "export * from 'fast-png';", 'readers-only-in-exchange'],
  // A circle is reported at one of its files.
  ['src/core/graph/breach.ts', "export type * from './breach-back';", null],
  ['src/core/graph/breach-back.ts', "export type * from './breach';", 'no-cycle'],
  ['src/state/breach-view.ts', "export * from '../ui/Button';", 'state-without-views'],
  ['cli/breach.ts', "export * from '@/server/settings';", 'cli-only-core'],
];

const clean = cruise();
for (const { from, to, rule } of clean.violations) console.error(`${rule.name}: ${from} → ${to}`);
if (clean.totalCruised < LEAST_MODULES)
  throw new Error(`Only ${String(clean.totalCruised)} modules were seen; the check is blind.`);
try {
  for (const [file, text] of BREACHES) writeFileSync(path.join(root, file), `${text}\n`);
  const caught = new Set(
    cruise()
      .violations.filter(({ from }) => from.includes('breach'))
      .map(({ from, rule }) => `${from} ${rule.name}`),
  );
  const missed = BREACHES.filter(
    ([file, , rule]) => rule !== null && !caught.has(`${file} ${rule}`),
  );
  for (const [file, , rule] of missed)
    console.error(`the rule ${rule ?? ''} does not catch ${file}`);
  if (missed.length > 0) process.exitCode = 1;
} finally {
  for (const [file] of BREACHES) rmSync(path.join(root, file), { force: true });
}
if (clean.violations.length > 0) process.exitCode = 1;
console.log(
  `${String(clean.totalCruised)} modules, ${String(clean.violations.length)} breaches; ` +
    `${String(BREACHES.length)} planted ones tried`,
);
