/** A paper as a web page to print: one file, its pictures within it, its formulas as MathML. */
import { formulaMathMl } from '../../item/formulas.js';
import type { QuizSet } from '../../item/model.js';
import { escapeXml } from '../../item/richText.js';
import { assetsAsData } from '../pictures.js';
import type { Paper, PaperAnswer, PaperBlock, PaperItem, PaperKeyRow, PaperPiece, PaperRun } from './pieces.js';
import { runsFromRight } from './words.js';

const blank = (width: number): string => '_'.repeat(width);
const span = (name: string, n: number): string => (n > 1 ? ` ${name}="${n}"` : '');

function run(r: PaperRun): string {
  switch (r.is) {
    case 'text': {
      const looks = [r.code && 'code', r.sup && 'sup', r.sub && 'sub', r.underline && 'u', r.italic && 'em', r.bold && 'strong'];
      return looks.reduce<string>((html, tag) => (tag ? `<${tag}>${html}</${tag}>` : html), escapeXml(r.text));
    }
    case 'formula':
      return formulaMathMl(r.tex, r.display) ?? `<code>${escapeXml(r.tex)}</code>`;
    case 'picture':
      return `<img src="asset:${r.asset}" alt="${escapeXml(r.alt)}"${r.width ? ` width="${r.width}"` : ''}>`;
    case 'blank':
      return blank(r.width);
    case 'break':
      return '<br>';
  }
}
const line = (runs: readonly PaperRun[]): string => runs.map(run).join('');

function block(b: PaperBlock): string {
  switch (b.is) {
    case 'paragraph':
      return `<p>${line(b.runs)}</p>`;
    case 'list': {
      const tag = b.ordered ? 'ol' : 'ul';
      return `<${tag}${span('start', b.start)}>${b.items.map((i) => `<li>${blocksIn(i)}</li>`).join('')}</${tag}>`;
    }
    case 'table': {
      const rows = b.rows.map((cells) =>
        cells.map((c) => {
          const tag = c.head ? 'th' : 'td';
          return `<${tag}${span('colspan', c.columns)}${span('rowspan', c.rows)}>${blocksIn(c.blocks)}</${tag}>`;
        }),
      );
      return `<table class="lined">${rows.map((r) => `<tr>${r.join('')}</tr>`).join('')}</table>`;
    }
    case 'code':
      return `<pre>${escapeXml(b.text)}</pre>`;
    case 'quote':
      return `<blockquote>${htmlOfBlocks(b.blocks)}</blockquote>`;
  }
}
/** Blocks as HTML; pictures by the names of their assets. */
export const htmlOfBlocks = (all: readonly PaperBlock[]): string => all.map(block).join('');
/** Blocks where one paragraph needs no tags of its own: options, cells. */
const blocksIn = (all: readonly PaperBlock[]): string => (all.length === 1 && all[0]?.is === 'paragraph' ? line(all[0].runs) : htmlOfBlocks(all));

function answer(a: PaperAnswer): string {
  switch (a.is) {
    case 'options':
      return `<ol type="a" class="options in-${a.columns}">${a.options.map((o) => `<li>${blocksIn(o.blocks)}</li>`).join('')}</ol>`;
    case 'boxes':
      return `<p class="boxes">${a.words.map((w) => `<span>☐ ${escapeXml(w.text)}</span>`).join(' ')}</p>`;
    case 'lines':
      return '<div class="line"></div>'.repeat(a.lines);
    case 'blank':
      return `<p>${blank(a.width)}${a.unit ? ` ${escapeXml(a.unit)}` : ''}</p>`;
    case 'bank':
      return `<p class="bank">${a.words.map(escapeXml).join(' · ')}</p>`;
    case 'pairs': {
      const rows = Array.from({ length: Math.max(a.lefts.length, a.rights.length) }, (_, i) => {
        const [left, right] = [a.lefts[i], a.rights[i]];
        return `<tr><td>${left ? `${i + 1}. ${blocksIn(left)}` : ''}</td><td>${left ? blank(4) : ''}</td><td>${right ? `${right.letter}. ${blocksIn(right.blocks)}` : ''}</td></tr>`;
      });
      return `<table class="pairs">${rows.join('')}</table>`;
    }
    case 'steps':
      return `<ul class="steps">${a.steps.map((s) => `<li>${blank(3)} ${blocksIn(s)}</li>`).join('')}</ul>`;
  }
}

const item = (p: PaperItem): string =>
  `<section class="item"><p class="number">${escapeXml(p.number)}</p><div>${htmlOfBlocks(p.blocks)}${p.answers.map(answer).join('')}${
    p.points ? `<p class="points">(${escapeXml(p.points)})</p>` : ''
  }</div></section>`;

const keyRow = (r: PaperKeyRow): string =>
  `<tr><th scope="row">${escapeXml(r.number)}</th><td>${htmlOfBlocks(r.key)}${r.notes.map((n) => `<div class="note">${htmlOfBlocks(n)}</div>`).join('')}</td><td>${escapeXml(r.points)}</td></tr>`;

function piece(p: PaperPiece): string {
  switch (p.is) {
    case 'title':
      return `<h1>${escapeXml(p.text)}</h1>`;
    case 'head': {
      const fields = [p.name, p.group, p.date].map((f) => `<span>${escapeXml(f)}: ${blank(f === p.name ? 24 : 10)}</span>`);
      return `<p class="head">${[...fields, ...(p.points ? [`<span>${escapeXml(p.points)}</span>`] : [])].join(' ')}</p>`;
    }
    case 'page':
      return '<div class="page"></div>';
    case 'heading':
      return `<h2>${escapeXml(p.text)}</h2>`;
    case 'text':
      return `<div class="text">${htmlOfBlocks(p.blocks)}</div>`;
    case 'passage':
      return `<div class="passage">${htmlOfBlocks(p.blocks)}</div>`;
    case 'item':
      return item(p);
    case 'key':
      return p.rows.length
        ? `<table class="key lined"><thead><tr>${[p.headings.number, p.headings.key, p.headings.points].map((h) => `<th scope="col">${escapeXml(h)}</th>`).join('')}</tr></thead><tbody>${p.rows.map(keyRow).join('')}</tbody></table>`
        : '';
  }
}

const STYLE = `
body { font: 11.5pt/1.5 "Atkinson Hyperlegible Next", "Noto Sans", Verdana, sans-serif; max-width: 46em; margin: 2em auto; padding: 0 1em; overflow-wrap: break-word }
h1 { font-size: 1.5em; line-height: 1.25 } h2 { font-size: 1.2em; break-after: avoid }
.head { display: flex; flex-wrap: wrap; gap: .4em 1.6em }
.item { break-inside: avoid; margin: 1.1em 0; display: grid; grid-template-columns: minmax(2.4em, max-content) minmax(0, 1fr); column-gap: .4em }
.item > p, .item > div > p:first-child { margin-top: 0 } .number { font-weight: bold }
.options { display: grid; gap: .1em 2em; margin: .3em 0; padding-inline-start: 1.8em } .in-2 { grid-template-columns: 1fr 1fr } .in-4 { grid-template-columns: repeat(4, auto); justify-content: start; column-gap: 3.2em }
.boxes span { margin-inline-end: 2em } .bank { border: 1px solid #777; padding: .3em .8em }
.line { border-bottom: 1px solid #777; height: 2em } .points, .note { color: #555; font-size: .9em } .points { margin: .2em 0 0 }
.passage { border-inline-start: 3px solid #777; padding-inline-start: 1em; margin: 1em 0 }
.lined { border-collapse: collapse } .lined td, .lined th { border: 1px solid #999; padding: .25em .6em; vertical-align: top; text-align: start }
.key { width: 100% } .key p { margin: 0 } .key tr { break-inside: avoid }
.pairs td { padding: .2em 1.6em .2em 0; vertical-align: top } .steps { list-style: none; padding: 0 }
img { max-width: 100%; height: auto } pre { white-space: pre-wrap } .page { break-after: page }
@page { size: A4; margin: 18mm } @media print { body { margin: 0; padding: 0; max-width: none } }
@media screen and (max-width: 34em) { .in-2, .in-4 { grid-template-columns: 1fr } }
`;

/**
 * The page. Same paper, same text.
 * @param set with the pictures that the paper shows
 * @param more what stands at its end, as HTML
 */
export function paperPage(paper: Paper, set: QuizSet, more = ''): string {
  const body = assetsAsData(paper.pieces.map(piece).join('\n'), set);
  const direction = runsFromRight(paper.language) ? ' dir="rtl"' : '';
  return `<!DOCTYPE html>
<html lang="${escapeXml(paper.language)}"${direction}>
<head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escapeXml(paper.title)}</title><style>${STYLE}</style></head>
<body>
${body}
${more}</body>
</html>
`;
}
