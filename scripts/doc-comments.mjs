// Every export of packages/core says what it is: counts doc comments and names those without. Part of `npm test`.
//   node scripts/doc-comments.mjs [folder …]   packages/core/src where none is named
// Counted are exported functions, classes with their public methods, types, interfaces and values; not what tests alone use.
import fs from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { fileURLToPath } from 'node:url';
import { root } from './install.mjs';

const TESTS = /(?:\.test\.tsx?$)|(?:^|\/)(?:testing|generate)\/|(?:^|\/)(?:arbitrary|runs|testing|fuzz|roundTrip|brief)\.ts$|\.d\.ts$/;

/** Exports of a file: [name, line, whether a doc comment stands in front]. */
export function exportsOf(text, name = 'a.ts') {
  const source = ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true);
  const out = [];
  const documented = (node) => (node.jsDoc?.length ?? 0) > 0;
  const at = (node) => source.getLineAndCharacterOfPosition(node.getStart()).line + 1;
  for (const node of source.statements) {
    if (!node.modifiers?.some((m) => m.kind === ts.SyntaxKind.ExportKeyword)) continue;
    if (ts.isVariableStatement(node)) for (const d of node.declarationList.declarations) out.push([d.name.getText(), at(node), documented(node)]);
    else if (node.name) out.push([node.name.text, at(node), documented(node)]);
    if (ts.isClassDeclaration(node))
      for (const member of node.members) {
        const hidden = member.modifiers?.some((m) =>
          [ts.SyntaxKind.PrivateKeyword, ts.SyntaxKind.ProtectedKeyword, ts.SyntaxKind.OverrideKeyword].includes(m.kind),
        );
        if (ts.isMethodDeclaration(member) && !hidden && !ts.isPrivateIdentifier(member.name))
          out.push([`${node.name?.text}.${member.name.getText()}`, at(member), documented(member)]);
      }
  }
  // the overloads of one function are one export
  const known = new Map();
  for (const [n, line, has] of out) known.set(n, [n, known.get(n)?.[1] ?? line, has || (known.get(n)?.[2] ?? false)]);
  // the head of a file that exports one thing is about that thing
  const single = [...known.keys()].filter((n) => !n.includes('.'));
  if (single.length === 1 && /^\s*\/\*\*/.test(text)) known.get(single[0])[2] = true;
  return [...known.values()];
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const folders = process.argv.slice(2).length ? process.argv.slice(2) : ['packages/core/src'];
  let all = 0;
  const without = [];
  for (const folder of folders)
    for (const file of fs.readdirSync(path.join(root, folder), { recursive: true }).sort()) {
      if (!/\.tsx?$/.test(file) || TESTS.test(file)) continue;
      for (const [name, line, has] of exportsOf(fs.readFileSync(path.join(root, folder, file), 'utf8'), file)) {
        all++;
        if (!has) without.push(`${folder}/${file}:${line} ${name}`);
      }
    }
  for (const w of without) console.log(w);
  console.log(`doc comments: ${all - without.length} of ${all} exports have one`);
  process.exit(without.length ? 1 : 0);
}
