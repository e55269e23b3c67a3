/** Writes GIFT: plain text, one question after another, answers in braces. One file a set. */
import { inFigures } from '../../language/decimal.js';
import { fitSet } from '../../fit/fit.js';
import { shares } from '../../fit/steps.js';
import type { Item, ItemOf, NumberAnswer, Option, QuizSet, TextAnswer } from '../../item/model.js';
import { isMarkup, richToXhtml } from '../../item/richText.js';
import { assetsAsData } from '../pictures.js';
import { fileName, type Written } from '../format.js';
import { utf8 } from '../encoding.js';
import { FORMAT_MARK } from './formatMark.js';
import { giftProfile } from './profile.js';

/** The signs that GIFT gives a meaning, each kept literal by a backslash before it. */
const escapeGift = (text: string): string => (/[\\~=#{}:\n]/.test(text) ? text.replace(/[\\~=#{}:]/g, '\\$&').replace(/\r?\n/g, '\\n') : text);
const percent = (credit: number): string => `%${Math.round(credit * 1e7) / 1e5}%`;
const numberOf = (a: NumberAnswer): string => (a.min === a.max ? inFigures(a.min) : `${inFigures(a.min)}..${inFigures(a.max)}`);
/** A weight in front of an answer: none where it earns everything, but one where the answer itself would look like a weight. */
const weighted = (credit: number, text: string): string => (credit === 1 && !text.startsWith('%') ? text : percent(credit) + text);
/** What a learner types is no HTML; a star stands for any letters there unless it is escaped. */
const typed = (text: string): string => {
  const words = escapeGift(text.replace(/\s+/g, ' ').trim()).replace(/\*/g, '\\*');
  // what looks like a format mark would be taken for one
  return FORMAT_MARK.test(words) ? `[plain]${words}` : words;
};

/** Texts of one question: where one of them is HTML, the others are read as HTML too unless they say what they are. */
class Writer {
  constructor(
    private readonly quiz: QuizSet,
    private html = false,
  ) {}

  /** A text with its format mark. "->" would make an answer a pair and "//" a comment, so these go as HTML. */
  rich(text: string): string {
    const odd = text.includes('->') || text.includes('//') || /^\s*[[%]/.test(text) || (this.html && /[&<>]/.test(text));
    if (!isMarkup(text) && !odd) return escapeGift(text.trim());
    const xhtml = assetsAsData(richToXhtml(text.trim()), this.quiz);
    return `[html]${escapeGift(xhtml).replace(/->/g, '-&gt;').replace(/\/\//g, '/&\\#47;')}`;
  }
  feedback(text: string | undefined): string {
    return text ? `#${this.rich(text)}` : '';
  }

  private options(options: readonly Option[], choice: boolean): string {
    return options
      .map(
        (o) =>
          `\t${choice && o.credit === 1 ? '=' : choice && o.credit === 0 ? '~' : `~${percent(o.credit)}`}${this.rich(o.content)}${this.feedback(o.feedback)}`,
      )
      .join('\n');
  }
  private texts(answers: readonly TextAnswer[]): string[] {
    return answers.filter((a) => a.text.trim()).map((a) => `=${weighted(a.credit, typed(a.text))}${this.feedback(a.feedback)}`);
  }
  private numbers(answers: readonly NumberAnswer[]): string {
    const [only] = answers;
    if (answers.length === 1 && only?.credit === 1 && !only.feedback) return `#${numberOf(only)}`;
    return `#\n${answers.map((a) => `\t=${weighted(a.credit, numberOf(a))}${this.feedback(a.feedback)}`).join('\n')}`;
  }
  private pairs(item: ItemOf<'matching'>): string {
    return [...item.pairs.map((p) => `\t=${this.rich(p.left)} -> ${this.rich(p.right)}`), ...item.extraRights.map((r) => `\t= -> ${this.rich(r)}`)].join('\n');
  }

  /** The question text, and the braces where there are any. */
  question(item: Item): string {
    this.html = this.rich(item.stem).startsWith('[html]');
    const general = item.feedback?.general ? `\n\t####${this.rich(item.feedback.general)}` : '';
    const block = (lines: string): string => `${this.rich(item.stem)} {\n${lines}${general}\n}`;
    switch (item.kind) {
      case 'multiple-choice':
        return block(this.options(item.options, true));
      case 'multiple-response':
        return block(this.options(shares(item.options, item.scoring), false));
      case 'true-false': {
        const wrong = item.optionFeedback?.[item.answer ? 'false' : 'true'];
        const right = item.optionFeedback?.[item.answer ? 'true' : 'false'];
        const tail = right ? `#${wrong ? this.rich(wrong) : ''}#${this.rich(right)}` : this.feedback(wrong);
        return `${this.rich(item.stem)} {${item.answer ? 'TRUE' : 'FALSE'}${tail}${general}}`;
      }
      case 'short-answer':
        return block(
          this.texts(item.answers)
            .map((a) => `\t${a}`)
            .join('\n'),
        );
      case 'numeric':
        return `${this.rich(item.stem)} {${this.numbers(item.answers)}${general}}`;
      case 'cloze': {
        const [gap] = item.gaps;
        const answer = gap?.kind === 'number' ? this.numbers(gap.answers) : gap?.kind === 'text' ? this.texts(gap.answers).join(' ') : '';
        const whole = this.rich(item.stem);
        const at = whole.indexOf('[[1]]');
        const after = whole.slice(at + 5);
        // a gap at the very end would be no missing word there: its blank is written out
        const ends = /^(\s|<\/?[a-z]+\/?>)*$/i.test(after);
        return ends ? `${whole.slice(0, at)}_____${after} {${answer}${general}}` : `${whole.slice(0, at)}{${answer}${general}}${after}`;
      }
      case 'matching':
        return block(this.pairs(item));
      case 'essay':
        return `${this.rich(item.stem)} {${general}}`;
      default:
        return this.rich(item.stem);
    }
  }
}

const mark = (name: string, value: string): string =>
  `[${name}:${value
    .replace(/\s+/g, ' ')
    .trim()
    .replace(/[\\\]]/g, '\\$&')}]`;

/** Writes a set as GIFT, as `fitSet` makes it. Same set, same text. */
export function giftText(quiz: QuizSet): string {
  const { set } = fitSet(quiz, giftProfile);
  const out: string[] = [`// ${set.title.replace(/\s+/g, ' ')}`];
  let section: string | undefined;
  for (const item of set.items) {
    if (item.section !== section) {
      section = item.section;
      const title = set.sections?.find((s) => s.id === section)?.title;
      out.push(`$CATEGORY: ${title ? escapeGift(title.replace(/\s+/g, ' ').trim()) : 'top'}`);
    }
    const marks = [mark('id', item.id), ...(item.label ? [mark('label', item.label)] : []), ...(item.tags ?? []).map((t) => mark('tag', t))];
    const title = item.title?.trim() ? `::${escapeGift(item.title.replace(/\s+/g, ' ').trim())}::` : '';
    out.push(`// ${marks.join(' ')}\n${title}${new Writer(set).question(item)}`);
  }
  return `${out.join('\n\n')}\n`;
}

/** A set as a GIFT file. */
export const writeGift = (set: QuizSet): Written => ({ bytes: utf8(giftText(set)), name: fileName(set.title, '.gift.txt') });
