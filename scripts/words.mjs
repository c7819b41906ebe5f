// npm run words: every word a person may see, file by file, so that they can be read in one go.
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';
import { root } from './lib/machine.mjs';

const places = [
  'packages/words/src',
  'apps/pilot/src',
  'packages/commissioning/src',
  'packages/books',
  'packages/demo-plant/src',
  'packages/core/src',
  'apps/server/src',
  'apps/bench/src',
];
/** Attributes and fields that nobody reads. */
const unread =
  /^(testID|actTestID|style|id|key|href|d|fontFamily|color|backgroundColor|outlineStyle|role|kind|hotkey|queryKey|autoComplete|tags|description)$/;

const filesOf = (folder) =>
  readdirSync(folder)
    .filter((name) => name !== 'node_modules' && name !== 'test')
    .flatMap((name) => {
      const path = join(folder, name);
      return statSync(path).isDirectory() ? filesOf(path) : /\.(tsx?|json)$/.test(name) ? [path] : [];
    });

/** What is said in a text of source: literals and templates with a space or a capital, and text between tags. */
function saidIn(path) {
  const source = ts.createSourceFile(
    path,
    readFileSync(path, 'utf8'),
    ts.ScriptTarget.Latest,
    true,
    path.endsWith('x') ? ts.ScriptKind.TSX : undefined,
  );
  const said = [];
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return;
    const named = (ts.isJsxAttribute(node) || ts.isPropertyAssignment(node)) && node.name.getText(source);
    if (named && unread.test(named)) return;
    if (ts.isJsxText(node)) said.push(node.text);
    else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) said.push(node.text);
    else if (ts.isTemplateExpression(node)) {
      said.push(
        node.head.text +
          node.templateSpans.map((s) => `‹${s.expression.getText(source).replace(/\s+/g, ' ').slice(0, 40)}›${s.literal.text}`).join(''),
      );
      for (const span of node.templateSpans) visit(span.expression);
      return;
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return [...new Set(said.map((t) => t.replace(/\s+/g, ' ').trim()))].filter(
    (t) => /[a-z]{2}/.test(t) && (/ /.test(t) || /^[A-Z][a-z]+$/.test(t)) && !/^[$./@]|^\/|^(select|insert|update) /.test(t),
  );
}

for (const place of places)
  for (const path of filesOf(join(root, place))) {
    const said = saidIn(path);
    if (said.length === 0) continue;
    console.log(`\n## ${relative(root, path)}\n`);
    for (const text of said) console.log(`- ${text}`);
  }
