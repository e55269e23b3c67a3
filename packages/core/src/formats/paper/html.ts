/**
 * A set as a web page to print: the questions, then the key on a page of its own. The set itself stands in the page as text in the
 * notation, so that the page reads back whole; a page from elsewhere is read as a draft.
 */
import { fromHtml } from '../../incoming/pasted.js';
import { writeNotation } from '../notation/notation.js';
import { readDraft } from '../../draft/read.js';
import { letterOf } from '../../item/kinds.js';
import type { Item, QuizSet, ReadResult } from '../../item/model.js';
import { escapeXml, isMarkup, richToXhtml } from '../../item/richText.js';
import { truthWords } from '../../language/truthWords.js';
import { displayOrder } from '../displayOrder.js';
import { assetsAsData } from '../pictures.js';
import { keyInWords, rightsOnPaper } from './key.js';
import { numbersOnPaper } from './paper.js';

const SOURCE = /<script type="text\/x-zakuska-notation">((?:(?!<\/?script\b)[\s\S])*)<\/script>/;
const BLOCK = /^<(p|ul|ol|table|pre|blockquote)\b/;
const inline = (rich: string): string => richToXhtml(rich);
const block = (rich: string): string => (isMarkup(rich) && BLOCK.test(rich) ? rich : `<p>${inline(rich)}</p>`);

const LINES = '<div class="line"></div>';

function question(item: Item, set: QuizSet): string {
  switch (item.kind) {
    case 'multiple-choice':
    case 'multiple-response':
      return block(item.stem) + `<ol type="a">${item.options.map((o) => `<li>${inline(o.content)}</li>`).join('')}</ol>`;
    case 'true-false': {
      const words = truthWords(item.language ?? set.language);
      return `${block(item.stem)}<p>☐ ${escapeXml(words.true)} ☐ ${escapeXml(words.false)}</p>`;
    }
    case 'cloze': {
      const bank = item.wordBank?.length ? `<p class="bank">${item.wordBank.map(escapeXml).join(' · ')}</p>` : '';
      const gap = (id: string): string => {
        const g = item.gaps.find((x) => x.id === id);
        return g?.kind === 'choice' ? `______ (${g.options.map((o) => inline(o.content)).join(' / ')})` : '____________';
      };
      return bank + block(item.stem.replace(/\[\[([^\][]+)\]\]/g, (_, id: string) => gap(id)));
    }
    case 'matching': {
      const shown = rightsOnPaper(item);
      const rows = Array.from({ length: Math.max(item.pairs.length, shown.length) }, (_, i) => {
        const left = item.pairs[i]?.left;
        const right = shown[i];
        return `<tr><td>${left ? `${i + 1}. ${inline(left)} ____` : ''}</td><td>${right ? `${letterOf(i)}. ${inline(right)}` : ''}</td></tr>`;
      });
      return `${block(item.stem)}<table class="pairs">${rows.join('')}</table>`;
    }
    case 'ordering':
      return `${block(item.stem)}<ul class="steps">${displayOrder(item.sequence.length)
        .map((i) => `<li>___ ${inline(item.sequence[i] ?? '')}</li>`)
        .join('')}</ul>`;
    case 'short-answer':
      return block(item.stem) + LINES;
    case 'numeric':
      return `${block(item.stem)}<p>____________${item.unit ? ` ${escapeXml(item.unit)}` : ''}</p>`;
    case 'essay':
      return block(item.stem) + LINES.repeat(Math.min(40, item.lines ?? 6));
    default:
      return block(item.stem);
  }
}

const STYLE =
  'body{font:11.5pt/1.5 "Atkinson Hyperlegible",Verdana,sans-serif;max-width:46em;margin:2em auto;padding:0 1em}section.item{break-inside:avoid;margin:1.1em 0;display:grid;grid-template-columns:2.4em 1fr}section.item>p:first-child{margin:0}section.item>div>p:first-child{margin-top:0}.points{color:#555;font-size:.9em}.line{border-bottom:1px solid #888;height:2em}.passage{border-left:3px solid #888;padding-left:1em}.pairs td{padding:.2em 2em .2em 0;vertical-align:top}.steps{list-style:none;padding:0}img{max-width:100%}.key{break-before:page}@media print{body{margin:0}}';

/** The page. Same set, same text. */
export function paperHtml(set: QuizSet): string {
  let section: string | undefined;
  const body: string[] = [];
  const numbers: string[] = [];
  const counted = numbersOnPaper(set);
  for (const item of set.items) {
    if (item.section !== section) {
      section = item.section;
      const s = set.sections?.find((x) => x.id === section);
      if (s?.title) body.push(`<h2>${escapeXml(s.title)}</h2>`);
      if (s?.instructions) body.push(block(s.instructions));
      if (s?.passage) body.push(`<div class="passage">${block(s.passage)}</div>`);
    }
    if (item.kind === 'information') {
      body.push(`<section class="text">${block(item.stem)}</section>`);
      continue;
    }
    const number = counted.get(item.id) ?? '';
    numbers.push(`<li value="${numbers.length + 1}"><b>${escapeXml(number)}</b> ${keyInWords(item, set.language)}</li>`);
    const points = item.points === 1 ? '' : ` <span class="points">(${item.points} points)</span>`;
    body.push(`<section class="item"><p>${escapeXml(number)}</p><div>${question(item, set)}${points}</div></section>`);
  }
  // an end tag of the script inside the text would end it
  const source = writeNotation(set).replace(/<(?=\/script|!--)/gi, '\\u003c');
  const page = `<!DOCTYPE html>
<html${set.language ? ` lang="${escapeXml(set.language)}"` : ''}>
<head><meta charset="utf-8"><title>${escapeXml(set.title)}</title><style>${STYLE}</style></head>
<body>
<h1>${escapeXml(set.title)}</h1>
${body.join('\n')}
<section class="key"><h2>Key</h2><ul style="list-style:none;padding:0">${numbers.join('')}</ul></section>
<script type="text/x-zakuska-notation">
${source}</script>
</body>
</html>
`;
  const scriptAt = page.indexOf('<script type=');
  return assetsAsData(page.slice(0, scriptAt), set) + page.slice(scriptAt);
}

/** Reads a page: ours by the notation that stands in it, any other as a draft. */
export function readPaperHtml(html: string): ReadResult {
  const own = SOURCE.exec(html)?.[1];
  if (own !== undefined) return readDraft(own.replace(/^\n/, '').replace(/\\u003c(?=\/script|!--)/gi, '<'));
  return readDraft(fromHtml(html).text);
}
