/**
 * Checks that every public export of the core says what it is, and that functions which throw say
 * what. Nodes, parameters, starters and ready groups are documented by their own texts.
 */
import { readFileSync, readdirSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

const root = path.resolve(import.meta.dirname, '..');
const EXEMPT = /\.(test|generated|node|parameter|map|export|starter|ready)\.ts$/;
const files = readdirSync(path.join(root, 'src/core'), { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !EXEMPT.test(file))
  .map((file) => path.join('src/core', file))
  .sort();

type Exported =
  | ts.FunctionDeclaration
  | ts.ClassDeclaration
  | ts.InterfaceDeclaration
  | ts.TypeAliasDeclaration
  | ts.VariableStatement;
const isExported = (node: ts.Statement): node is Exported =>
  (ts.isFunctionDeclaration(node) ||
    ts.isClassDeclaration(node) ||
    ts.isInterfaceDeclaration(node) ||
    ts.isTypeAliasDeclaration(node) ||
    ts.isVariableStatement(node)) &&
  (ts.getModifiers(node) ?? []).some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);
const nameOf = (node: Exported): string =>
  ts.isVariableStatement(node)
    ? node.declarationList.declarations.map(({ name }) => name.getText()).join(', ')
    : (node.name?.text ?? '');

/** Whether a function throws by itself; what it calls says so at its own place. */
function throws(node: ts.Node): boolean {
  if (ts.isThrowStatement(node)) return !/Invariant broken/.test(node.getText());
  return ts.forEachChild(node, throws) ?? false;
}
/** The comment right above a declaration. */
function docOf(node: Exported, text: string): string {
  const comments = ts.getLeadingCommentRanges(text, node.getFullStart()) ?? [];
  const last = comments.at(-1);
  return last && text.startsWith('/**', last.pos) ? text.slice(last.pos, last.end) : '';
}

let count = 0;
const missing: string[] = [];
for (const file of files) {
  const text = readFileSync(path.join(root, file), 'utf8');
  const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true);
  for (const node of source.statements) {
    if (!isExported(node)) continue;
    count++;
    const doc = docOf(node, text);
    const line = source.getLineAndCharacterOfPosition(node.getStart()).line + 1;
    const place = `${file}:${String(line)} ${nameOf(node)}`;
    if (doc === '') missing.push(`${place} has no comment`);
    else if (ts.isFunctionDeclaration(node) && throws(node) && !/@?throws/i.test(doc))
      missing.push(`${place} throws and does not say what`);
  }
}
for (const each of missing) console.error(each);
console.log(`${String(count)} exports of the core, ${String(missing.length)} not documented`);
if (missing.length > 0) process.exitCode = 1;
