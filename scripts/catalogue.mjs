// The texts of the workbench: which messages its sources say, what each language lacks, and literal texts that go past the catalogue.
//   node scripts/catalogue.mjs           what is missing and unused in each language; exit code 1 when anything is
//   node scripts/catalogue.mjs --prune   takes out what no source says any more, and puts the rest in the order of the alphabet
import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import ts from 'typescript';
import { root } from './install.mjs';

const WEB = path.join(root, 'apps/web/src');
/** The languages that have a catalogue. */
export const LANGUAGES = fs.readdirSync(path.join(WEB, 'words')).flatMap((f) => (f.endsWith('.json') ? [f.slice(0, -5)] : []));
export const fileOf = (language) => path.join(WEB, `words/${language}.json`);

/** Sources below some folders without tests, those left out aside: path from the root → text. */
const sourcesIn = (folders, leftOut) =>
  execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', ...folders], { cwd: root, encoding: 'utf8' })
    .split('\n')
    .filter((f) => /\.tsx?$/.test(f) && !/\.test\.|\.d\.ts$/.test(f) && !leftOut.test(f) && fs.existsSync(path.join(root, f)))
    .map((f) => [f, fs.readFileSync(path.join(root, f), 'utf8')]);

/** The sources of the workbench: path below apps/web/src → text. What learners see has words of its own. */
export const sources = () =>
  new Map(sourcesIn([WEB], /generated|\/(?:take|testing|words)\//).map(([f, text]) => [path.relative(WEB, path.join(root, f)), text]));

const parsed = (file, text) => ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
const isText = (n) => ts.isStringLiteral(n) || ts.isNoSubstitutionTemplateLiteral(n);
/** The branches of a condition, or the expression itself. */
const branches = (n) =>
  ts.isParenthesizedExpression(n) ? branches(n.expression) : ts.isConditionalExpression(n) ? [...branches(n.whenTrue), ...branches(n.whenFalse)] : [n];

/** The messages that sources say: message → file that says it first. What is not a text as it stands is said by `faults`. */
export function messagesOf(files, faults = []) {
  const found = new Map();
  for (const [file, text] of files) {
    const take = (expression) => {
      for (const b of branches(expression)) {
        if (!isText(b)) faults.push(`${file}: ${b.getText()}`);
        else if (!found.has(b.text)) found.set(b.text, file);
      }
    };
    const visit = (n) => {
      if (ts.isCallExpression(n) && n.expression.getText() === 'say' && n.arguments[0]) take(n.arguments[0]);
      if (ts.isJsxSelfClosingElement(n) && n.tagName.getText() === 'Say')
        for (const a of n.attributes.properties)
          if (ts.isJsxAttribute(a) && a.name.getText() === 'text' && a.initializer)
            take(ts.isJsxExpression(a.initializer) ? a.initializer.expression : a.initializer);
      ts.forEachChild(n, visit);
    };
    visit(parsed(file, text));
  }
  return found;
}

/** The texts that tables of the core hold and the workbench shows (`known` says them). @param core its exports */
const ofCore = (core) => [
  ...Object.values(core.kinds).map((k) => k.name),
  ...core.bloomLevels,
  ...core.memberRoles,
  ...Object.keys(core.difficultyThirds),
  ...core.auditKinds,
  ...core.rules.flatMap((r) => [r.name, r.why]),
  ...core.destinations.flatMap((d) => [d.name, d.what]),
];

const CORE = path.join(root, 'packages/core/src');
const TELLERS = ['check', 'check/rules', 'fit', 'draft/items', 'draft/doubt', 'draft/signs', 'draft/links', 'mark'];
/** Where the core puts sentences together that `retold` tells: findings, what destinations cannot hold, what a key lacks, doubts of the reader and why it read so, reasons of marks, steps of the history. */
const tellers = () =>
  [
    ...TELLERS.flatMap((d) => fs.readdirSync(path.join(CORE, d)).map((f) => `${d}/${f}`)),
    'item/kinds.ts',
    'draft/read.ts',
    'edit/history.ts',
    'rehearse/rehearse.ts',
    'take/rules.ts',
  ]
    .filter((f) => f.endsWith('.ts') && !/\.test\.|\.d\.ts$/.test(f))
    .map((f) => [f, fs.readFileSync(path.join(CORE, f), 'utf8')]);

const SERVER = path.join(root, 'apps/server/src');
const READERS = ['core/src', 'documents/src'].map((f) => path.join(root, 'packages', f));
/** Where the server refuses, and readers of files do. What is refused to learners, their own page says; a blueprint of rows is for the command line. */
const refusers = () => sourcesIn([SERVER, ...READERS], /\/(?:testing|migrations|demo)\/|(?:deliveries\/attempts|bank\/blueprint)\.ts$/);

/** The shapes of such sentences: what is put in is {0}, {1} …, and pieces that may be put in are shapes of their own. */
function shapesOf(files, refusing) {
  const shapes = new Set();
  // codes of findings stand beside their words
  const add = (text) => letters(text) && !/^[a-z]+(?:-[a-z]+)+$/.test(text) && shapes.add(text);
  const pieces = (n) => {
    for (const b of branches(n)) {
      if (isText(b) || ts.isTemplateExpression(b)) sentence(b);
      else if (ts.isBinaryExpression(b) && isText(b.right)) add(b.right.text);
      else if (ts.isCallExpression(b) && b.expression.getText() === 'counted' && isText(b.arguments[1])) {
        const one = b.arguments[1].text;
        for (const many of [one, b.arguments[2]?.text ?? `${one}s`]) add(`{0} ${many}`);
      }
    }
  };
  const sentence = (n) => {
    for (const b of branches(n)) {
      if (isText(b)) add(b.text);
      else if (ts.isArrowFunction(b)) sentence(b.body);
      else if (ts.isBinaryExpression(b) && isText(b.right)) add(b.right.text);
      else if (ts.isTemplateExpression(b)) {
        add(b.head.text + b.templateSpans.map((s, i) => `{${i}}${s.literal.text}`).join(''));
        for (const s of b.templateSpans) pieces(s.expression);
      }
    }
  };
  /** The texts of a table that a constant of such a name holds. */
  const table = (n, named) => {
    if (ts.isVariableDeclaration(n) && named.test(n.name.getText()) && n.initializer && ts.isObjectLiteralExpression(n.initializer))
      for (const p of n.initializer.properties) if (ts.isPropertyAssignment(p)) sentence(p.initializer);
  };
  /** What readers of files say of what they did read. */
  const remark = (n) => {
    // a word alone is a code
    if (ts.isPropertyAssignment(n) && /^(?:message|why|reason)$/.test(n.name.getText()) && !(isText(n.initializer) && !/ /.test(n.initializer.text)))
      sentence(n.initializer);
    if (ts.isCallExpression(n) && /(?:^|\.)tell$/.test(n.expression.getText())) n.arguments.filter((a) => !isText(a) || / /.test(a.text)).forEach(sentence);
    if (ts.isCallExpression(n) && /(?:^|\.)(?:notes|said|problems)\.push$/.test(n.expression.getText())) n.arguments.forEach(sentence);
  };
  for (const [file, text] of files) {
    const visit = (n) => {
      if (ts.isPropertyAssignment(n) && /^(?:message|brief|label|why|reason)$/.test(n.name.getText())) sentence(n.initializer);
      // words that are put in
      if (ts.isVariableDeclaration(n) && n.initializer && /^(?:inWords|asked|message|texts|many)$/.test(n.name.getText())) sentence(n.initializer);
      table(n, /^(?:ADVICE|SAID|LOOK_NAMES|TRUTHS|FIELDS)$/);
      if (ts.isCallExpression(n) && n.expression.getText().endsWith('.doubt') && n.arguments[2]) sentence(n.arguments[2]);
      if (ts.isCallExpression(n) && /^keysAs$/.test(n.expression.getText()) && n.arguments[2]) sentence(n.arguments[2]);
      // rows of tables are made by functions, their words among the arguments
      if (ts.isCallExpression(n) && /^(?:some|list|own|said|ofSection|stays|note)$/.test(n.expression.getText()))
        n.arguments.filter((a) => !isText(a) || / /.test(a.text)).forEach(sentence);
      // how a file marks otherwise
      if (ts.isCallExpression(n) && /^difference\.(?:push|unshift)$/.test(n.expression.getText())) sentence(n.arguments[0]);
      // where a line is said to be something, and why
      if (ts.isCallExpression(n) && n.expression.getText().endsWith('.say') && n.arguments[3]) sentence(n.arguments[3]);
      if (ts.isFunctionDeclaration(n) && /^(?:sayOperation|rulesProblem|decisionProblem)$/.test(n.name?.text ?? ''))
        n.body?.forEachChild(function returned(c) {
          if (ts.isReturnStatement(c) && c.expression) sentence(c.expression);
          else ts.forEachChild(c, returned);
        });
      if (ts.isGetAccessor(n) && n.name.getText() === 'name') n.body?.statements.filter(ts.isReturnStatement).forEach((r) => sentence(r.expression));
      ts.forEachChild(n, visit);
    };
    visit(parsed(file, text));
  }
  for (const [file, text] of refusing) {
    const visit = (n) => {
      if (ts.isNewExpression(n) && n.expression.getText() === 'Problem' && n.arguments?.[2]) sentence(n.arguments[2]);
      if (ts.isNewExpression(n) && n.expression.getText() === 'ReadError' && n.arguments?.[0]) sentence(n.arguments[0]);
      if (ts.isCallExpression(n) && n.expression.getText() === 'gone')
        for (const b of branches(n.arguments[0])) if (isText(b)) add(`This ${b.text} is not here, or you may not see it.`);
      table(n, /^SAID$/);
      if (!file.startsWith('apps/')) remark(n);
      ts.forEachChild(n, visit);
    };
    visit(parsed(file, text));
  }
  return shapes;
}

/** All that the core, the readers and the server say to people of the workbench. @param core its exports */
export const toldBy = (core) => [...ofCore(core), ...shapesOf(tellers(), refusers())];

/** Attributes that people see or hear. */
const SHOWN = /^(?:title|aria-label|placeholder|alt|label|hint|description|what|legend|aria-valuetext|aria-description|empty)$/;
/** Elements whose words are the same in every language: keys, code. */
const AS_IS = /^(?:Kbd|kbd|code|pre)$/;
const letters = (t) => /\p{L}{2}/u.test(t.replace(/&\w+;/g, ''));
/** A sentence or a name: words with spaces between, or one that begins large. */
const worded = (t) => letters(t) && (/\p{L} \p{L}|^\p{Lu}\p{Ll}+$/u.test(t.trim()) || /^\p{Lu}\p{Ll}+ /u.test(t.trim()));
/** Names of classes, of style, of the web and of keys. */
const technical = (t) =>
  t
    .trim()
    .split(/\s+/)
    .some((w) => /^-?[a-z]+[-:[][a-z0-9[]|^(?:flex|grid|block|inline|border|rounded|truncate|note|rich|var|absolute|sticky)\b/.test(w)) ||
  /^(?:(?:Ctrl|Shift|Alt|Mod) )+\S+$|^(?:Arrow\w+|Enter|Escape|Backspace|Tab|Home|End|Page\w+|Delete|Space|Control|Shift|Alt|Meta|Ctrl|Esc)$|\/|^[.#[<(]|[{}<>]|px\b|\n|\t/.test(
    t.trim(),
  );
/** Where a text is no text for people: compared, a name of a property, of a type, of a module, or handed to what looks for it. */
function apart(n) {
  const p = n.parent;
  if (ts.isImportDeclaration(p) || ts.isExportDeclaration(p) || ts.isLiteralTypeNode(p) || ts.isElementAccessExpression(p) || ts.isCaseClause(p)) return true;
  if ((ts.isPropertyAssignment(p) || ts.isPropertySignature(p)) && p.name === n) return true;
  if (ts.isPropertyAssignment(p) && /^(?:className|look|queryKey|keys|shown|for|fontFamily)$/.test(p.name.getText())) return true;
  if (ts.isBinaryExpression(p) && /^[!=]==$|^in$/.test(p.operatorToken.getText())) return true;
  if (ts.isJsxAttribute(p)) return !SHOWN.test(p.name.getText());
  if (ts.isCallExpression(p) || ts.isNewExpression(p))
    return (
      /(?:^|\.)(?:say|includes|split|startsWith|endsWith|replace|replaceAll|match|test|closest|matches|querySelector|querySelectorAll|getAttribute|addEventListener|removeEventListener|Error|RegExp|add|has|get|set|is|isActive|join|open|useState)$/.test(
        p.expression.getText(),
      ) && p.expression.getText() !== 'list.join'
    );
  if (ts.isArrayLiteralExpression(p) && ts.isPropertyAssignment(p.parent)) return /^(?:keys|queryKey|mutationKey)$/.test(p.parent.name.getText());
  return false;
}

/** Literal texts that people would see in one language only. @returns "file: text" */
export function literalsOf(files, known = new Set()) {
  const out = [];
  for (const [file, text] of files) {
    if (/\.worker\.ts$|^(?:worker|api)\//.test(file)) continue;
    const add = (t) => known.has(t.trim()) || out.push(`${file}: ${t.trim().replace(/\s+/g, ' ')}`);
    const visit = (n) => {
      if (ts.isJsxText(n) && letters(n.text) && !(ts.isJsxElement(n.parent) && AS_IS.test(n.parent.openingElement.tagName.getText()))) add(n.text);
      else if (ts.isJsxAttribute(n) && n.initializer && ts.isStringLiteral(n.initializer) && SHOWN.test(n.name.getText()) && letters(n.initializer.text))
        add(n.initializer.text);
      else if (isText(n) && !ts.isJsxAttribute(n.parent) && worded(n.text) && !technical(n.text) && !apart(n)) add(n.text);
      else if (ts.isTemplateExpression(n) && !apart(n)) {
        const words = [n.head.text, ...n.templateSpans.map((s) => s.literal.text)];
        if (words.some((w) => /\p{L}{2,} |^ \p{L}{2,}/u.test(w) && !technical(w))) add(words.join('…'));
      }
      ts.forEachChild(n, visit);
    };
    visit(parsed(file, text));
  }
  return out;
}

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const prune = process.argv.includes('--prune');
  const messages = messagesOf(sources());
  for (const text of toldBy(await import('../packages/core/dist/index.js'))) if (!messages.has(text)) messages.set(text, 'the core');
  let open = 0;
  for (const language of LANGUAGES) {
    const words = JSON.parse(fs.readFileSync(fileOf(language), 'utf8'));
    const missing = [...messages.keys()].filter((m) => words[m] === undefined);
    const unused = Object.keys(words).filter((m) => !messages.has(m));
    open += missing.length + (prune ? 0 : unused.length);
    if (prune) {
      const kept = Object.entries(words).filter(([m]) => messages.has(m));
      fs.writeFileSync(fileOf(language), `${JSON.stringify(Object.fromEntries(kept.sort(([a], [b]) => (a < b ? -1 : 1))), null, 2)}\n`);
    }
    for (const m of missing) console.log(`${language} lacks  ${m}`);
    for (const m of unused) console.log(`${language} ${prune ? 'lost' : 'unused'}  ${m}`);
    console.log(`${language}: ${messages.size - missing.length} of ${messages.size} messages, ${unused.length} unused`);
  }
  process.exit(open ? 1 : 0);
}
