/**
 * Questions in the source of a paper that is set in TeX: lists within lists, or commands that name questions, choices and solutions.
 * Commands by Lamport, LaTeX: A Document Preparation System, 2nd ed., and by what classes for exams define (from memory).
 */
import { counted } from '../../language/counted.js';

const RIGHT = /^(?:CorrectChoice|correctchoice|correct)$/;
const CHOICE = /^(?:choice|wrongchoice|CorrectChoice|correctchoice|correct)$/;
/** Lists whose entries are choices, whatever their commands. */
const CHOICES = /^(?:choices|checkboxes|oneparchoices|oneparcheckboxes|answers|reponses|options)$/i;
const LISTS = /^(?:enumerate|itemize|questions|parts|subparts|tasks|exercises?)$/;
const SOLVED = /^(?:solution|answer|solutionorbox|solutionorlines|solutionordottedlines|explanation)$/i;

/** Whether a text is the source of a paper in TeX with questions in it. */
export const isTex = (text: string): boolean =>
  /\\begin\s*\{(?:enumerate|itemize|questions|choices|oneparchoices|checkboxes|document)\*?\}/.test(text) &&
  /\\(?:item|question|choice)(?![A-Za-z])/.test(text);

/** Where a group in braces ends that opens at a place; the end of the text where it does not. */
function closing(text: string, open: number): number {
  let depth = 0;
  for (let i = open; i < text.length; i++) {
    if (text[i] === '\\') i++;
    else if (text[i] === '{') depth++;
    else if (text[i] === '}' && --depth === 0) return i;
  }
  return text.length;
}

/** What a command with one group makes of its words; those of others are kept as they are. */
const AROUND: Readonly<Record<string, readonly [string, string]>> = {
  textbf: ['**', '**'],
  emph: ['*', '*'],
  textit: ['*', '*'],
  underline: ['<u>', '</u>'],
  texttt: ['`', '`'],
  textsuperscript: ['<sup>', '</sup>'],
  textsubscript: ['<sub>', '</sub>'],
  fillin: ['{', '}'],
};
/** Commands that only place things, with their measures. */
const PLACING =
  /\\(?:vspace|hspace|vskip|hskip|vfill|hfill|newpage|clearpage|pagebreak|noindent|centering|medskip|smallskip|bigskip|fillwithlines|makeemptybox|answerline|label|setcounter|addtocounter|usepackage|documentclass|pagestyle|thispagestyle|printanswers|maketitle|firstpageheader|footer|header|setlength|small|large|Large|normalsize|bfseries|par)(?![A-Za-z])\*?(?:\[[^\]]*\])?(?:\{[^{}]*\})*/g;
const SIGNS: Readonly<Record<string, string>> = {
  ldots: '…',
  dots: '…',
  degree: '°',
  textdegree: '°',
  euro: '€',
  textasciitilde: '~',
  textbackslash: '\\\\',
  S: '§',
  quad: ' ',
  qquad: ' ',
};
const ACCENTS: Readonly<Record<string, string>> = { "'": '\u0301', '`': '\u0300', '^': '\u0302', '"': '\u0308', '~': '\u0303', c: '\u0327' };

/** The words of a stretch of TeX as a draft has them; formulas stay in TeX. */
function words(tex: string): string {
  let out = '';
  for (let i = 0; i < tex.length; ) {
    const rest = tex.slice(i, i + 400);
    const math = /^\$\$([^$]+)\$\$|^\$([^$]+)\$|^\\\(([^]+?)\\\)|^\\\[([^]+?)\\\]/.exec(rest);
    if (math) {
      out += `\\(${(math[1] ?? math[2] ?? math[3] ?? math[4] ?? '').trim()}\\)`;
      i += math[0].length;
      continue;
    }
    const accent = /^\\(['`^"~]|c(?=\s*\{))\s*(?:\{\s*\\?([A-Za-z])\s*\}|\\?([A-Za-z]))/.exec(rest);
    if (accent) {
      out += ((accent[2] ?? accent[3] ?? '') + (ACCENTS[accent[1] ?? ''] ?? '')).normalize('NFC');
      i += accent[0].length;
      continue;
    }
    const command = /^\\([A-Za-z]+)\*?\s*(?:\[([^\]]*)\])?/.exec(rest);
    if (command) {
      const name = command[1] ?? '';
      const at = i + command[0].length;
      // what a gap hides stands in its option: \fillin[roux]
      const hidden = name === 'fillin' ? command[2] : undefined;
      if (hidden !== undefined) {
        out += `{${words(hidden)}}`;
        i = at;
      } else if (tex[at] === '{') {
        const end = closing(tex, at);
        const [open, close] = AROUND[name] ?? ['', ''];
        out += `${open}${words(tex.slice(at + 1, end))}${close}`;
        i = end + 1;
      } else {
        out += name in SIGNS ? SIGNS[name] : '';
        i = at + (/^\s/.test(tex[at] ?? '') && name in SIGNS ? 1 : 0);
      }
      continue;
    }
    const two = tex.slice(i, i + 2);
    if (two === '\\\\') out += '\n';
    else if (/^\\[,;:! ]/.test(two)) out += ' ';
    else if (/^\\[%&_#${}]/.test(two)) out += two === '\\_' || two === '\\{' || two === '\\}' ? two : two[1];
    else if (two === '``') out += '“';
    else if (two === "''") out += '”';
    else if (tex.startsWith('---', i)) out += '—';
    else if (two === '--') out += '–';
    else {
      if (tex[i] !== '{' && tex[i] !== '}') out += tex[i] === '~' ? ' ' : tex[i];
      i++;
      continue;
    }
    i += tex.startsWith('---', i) ? 3 : 2;
  }
  return out
    .split('\n')
    .map((l) => l.replace(/[ \t]+/g, ' ').trim())
    .filter(Boolean)
    .join(' ');
}

/** One step of the source: a list opens or closes, an entry starts, a heading, or words. */
const STEP =
  /\\begin\s*\{(\w+)\*?\}(?:\s*\[[^\]]*\])?|\\end\s*\{(\w+)\*?\}|\\(?:(?:sub)*section|title|paragraph)\*?\s*\{([^{}]*)\}|\\(item|question|titledquestion|bonusquestion|part|subpart|choice|CorrectChoice|correctchoice|wrongchoice|correct)(?![A-Za-z])\s*(?:\[([^\]]*)\])?/g;

/**
 * A paper in TeX written out as a draft: numbered questions, lettered options with a star behind the key, answers behind "Answer:".
 * Commands that only place things are left out, as is what stands in front of the document.
 * @param source the source of the paper, or a part of it
 */
export function draftOfTex(source: string): string {
  const body = /\\begin\s*\{document\}([^]*?)(?:\\end\s*\{document\}|$)/.exec(source)?.[1] ?? source;
  const tex = body.replace(/(?<!\\)%[^\n]*/g, '').replace(PLACING, ' ');
  const out: string[] = [];
  const lists: string[] = [];
  let number = 0;
  let letter = 0;
  let chosen = false;
  let worth = '';
  /** Words up to the next step, by what they follow. */
  let after: 'text' | 'question' | 'option' | 'right' | 'solution' = 'text';
  const say = (text: string): void => {
    const said = words(text);
    if (after === 'question') out.push('', `${++number}. ${said}${worth}`);
    else if (after === 'option' || after === 'right') out.push(`${String.fromCharCode(97 + (letter++ % 26))}) ${said}${after === 'right' ? ' *' : ''}`);
    else if (said) out.push(`${after === 'solution' ? (chosen ? 'Feedback: ' : 'Answer: ') : ''}${said}`);
    after = 'text';
  };
  let at = 0;
  for (const m of tex.matchAll(STEP)) {
    say(tex.slice(at, m.index));
    at = m.index + m[0].length;
    const [, opens, closes, heading, command = '', note = ''] = m;
    if (opens !== undefined) {
      if (SOLVED.test(opens)) after = 'solution';
      else if (LISTS.test(opens) || CHOICES.test(opens)) {
        lists.push(opens);
        letter = 0;
      }
    } else if (closes !== undefined) {
      if (LISTS.test(closes) || CHOICES.test(closes)) lists.pop();
    } else if (heading !== undefined) out.push('', `# ${words(heading)}`);
    else {
      const inner = lists[lists.length - 1] ?? '';
      const deep = lists.filter((l) => /^(?:enumerate|itemize)/.test(l)).length > 1 || (/^(?:enumerate|itemize)/.test(inner) && lists.includes('questions'));
      if (CHOICE.test(command) || CHOICES.test(inner) || (command === 'item' && deep)) {
        after = RIGHT.test(command) ? 'right' : 'option';
        chosen = true;
      } else {
        after = 'question';
        chosen = false;
        letter = 0;
        worth = /^\s*\d+(?:\.\d+)?\s*$/.test(note) ? ` (${counted(Number(note), 'point')})` : '';
      }
    }
  }
  say(tex.slice(at));
  return `${out
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim()}\n`;
}
