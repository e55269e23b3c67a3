/** Which exports count, and what counts as a doc comment. */
import { exportsOf } from './doc-comments.mjs';

const without = (text) => exportsOf(text).flatMap(([name, line, has]) => (has ? [] : [`${name}:${line}`]));

test.each([
  ['a doc comment in front', '/** Head. */\nimport a from "a";\n/** One. */\nexport const a = 1;\n/** Two. */\nexport function b() {}', []],
  ['none', 'export const a = 1;\nexport interface B {}\n/** C. */\nexport type C = 1;', ['a:1', 'B:2']],
  ['a plain comment is none', '// no\nexport const a = 1;\n/* no */\nexport const b = 1;', ['a:2', 'b:4']],
  ['what is not exported needs none', 'const a = 1;\nfunction b() {}', []],
  ['methods that others call', '/** C. */\nexport class C {\n  one() {}\n  private two() {}\n  #three() {}\n  override four() {}\n}', ['C.one:3']],
  ['overloads are one', '/** F. */\nexport function f(a: string): void;\nexport function f(a: number): void;\nexport function f(a: unknown): void {}', []],
  ['the head of a file is about its only export', '/** What a is. */\nimport b from "b";\n\nexport const a = 1;', []],
  ['but not of several', '/** What both are. */\nimport b from "b";\n\nexport const a = 1;\nexport const c = 1;', ['a:4', 'c:5']],
])('%s', (_, text, names) => {
  expect(without(text)).toEqual(names);
});
