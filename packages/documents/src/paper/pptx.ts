/** Slides as PPTX: large type, the key on a second step in the same place, notes for the person who speaks. */
import {
  type Asset,
  type ItemSlide,
  heightOfLines,
  languageOf,
  runsFromRight,
  type PaperAnswer,
  type PaperBlock,
  type PaperRun,
  type QuizSet,
  type Slide,
} from '@zakuska/core';
import { sameBytes } from '../sameBytes.js';
import { linearMath } from './math.js';
import { pictureOf } from './picture.js';

// what is used of the library, whose own types say different things to different module systems
interface Look {
  color?: string;
  bold?: boolean;
  italic?: boolean;
  underline?: { style: 'sng' };
  subscript?: boolean;
  superscript?: boolean;
  fontFace?: string;
  breakLine?: boolean;
}
interface Words {
  text: string;
  options: Look;
}
interface Page {
  addText(words: Words[] | string, at: object): unknown;
  addImage(picture: object): unknown;
  addNotes(notes: string): unknown;
}
interface Deck {
  layout: string;
  title: string;
  company: string;
  author: string;
  rtlMode: boolean;
  addSlide(): Page;
  write(form: { outputType: 'uint8array' }): Promise<unknown>;
}

/** Inches of a wide slide, and the ink on it. */
const WIDE = { width: 13.333, height: 7.5, margin: 0.7 };
const WIDTH = WIDE.width - 2 * WIDE.margin;
const INK = '1F1B16';
const QUIET = '5F574C';
const RIGHT = '2E5E1F';
const FONT = 'Arial';
const POINT = 1 / 72;

/** Runs as the library takes them. */
function wordsOf(runs: readonly PaperRun[], look: Look): Words[] {
  return runs.flatMap((r): Words[] => {
    switch (r.is) {
      case 'text':
        return [
          {
            text: r.text,
            options: {
              ...look,
              ...(r.bold && { bold: true }),
              ...(r.italic && { italic: true }),
              ...(r.underline && { underline: { style: 'sng' } }),
              ...(r.sub && { subscript: true }),
              ...(r.sup && { superscript: true }),
              ...(r.code && { fontFace: 'Courier New' }),
            },
          },
        ];
      case 'formula':
        return wordsOf(linearMath(r.tex), { ...look, fontFace: 'Cambria' });
      case 'blank':
        return [{ text: '_'.repeat(r.width), options: look }];
      case 'break':
        return [{ text: '', options: { ...look, breakLine: true } }];
      case 'picture':
        return [];
    }
  });
}
/** One paragraph: its last words end the line. */
const ended = (words: Words[]): Words[] => words.map((w, i) => (i === words.length - 1 ? { ...w, options: { ...w.options, breakLine: true } } : w));

/** Blocks as paragraphs; tables as rows with strokes between their cells. */
function paragraphsOf(blocks: readonly PaperBlock[], look: Look): Words[] {
  return blocks.flatMap((b): Words[] => {
    switch (b.is) {
      case 'paragraph':
        return ended(wordsOf(b.runs, look));
      case 'list':
        return b.items.flatMap((item, i) => ended([{ text: b.ordered ? `${b.start + i}. ` : '• ', options: look }, ...unended(paragraphsOf(item, look))]));
      case 'table':
        return b.rows.flatMap((row) =>
          ended(row.flatMap((c, i) => [...(i ? [{ text: '  |  ', options: look }] : []), ...unended(paragraphsOf(c.blocks, look))])),
        );
      case 'code':
        return b.text.split('\n').flatMap((line) => ended([{ text: line || ' ', options: { ...look, fontFace: 'Courier New' } }]));
      case 'quote':
        return paragraphsOf(b.blocks, { ...look, italic: true });
    }
  });
}
/** Without the end of the last line, for what stands within another. */
const unended = (words: Words[]): Words[] => words.map((w, i) => (i === words.length - 1 ? { ...w, options: { ...w.options, breakLine: false } } : w));

const picturesIn = (blocks: readonly PaperBlock[]): Extract<PaperRun, { is: 'picture' }>[] =>
  blocks.flatMap((b) =>
    b.is === 'paragraph'
      ? b.runs.filter((r) => r.is === 'picture')
      : b.is === 'list'
        ? b.items.flatMap(picturesIn)
        : b.is === 'table'
          ? b.rows.flat().flatMap((c) => picturesIn(c.blocks))
          : b.is === 'quote'
            ? picturesIn(b.blocks)
            : [],
  );
/** How high words stand, in inches: the same estimate that the size was chosen by. */
function heightOf(words: readonly Words[], size: number, width: number): number {
  const letters = [0];
  words.forEach((w, i) => {
    letters[letters.length - 1] = (letters.at(-1) ?? 0) + w.text.length;
    if (w.options.breakLine && i < words.length - 1) letters.push(0);
  });
  return heightOfLines(letters, size, width / POINT) * POINT;
}

/** Puts one slide on its page. */
class Put {
  private y = 1.05;
  constructor(
    private readonly page: Page,
    private readonly assets: Readonly<Record<string, Asset>>,
    private readonly rightToLeft: boolean,
  ) {}

  words(words: Words[], size: number, at: { x?: number; w?: number; color?: string; bold?: boolean; next?: boolean; name: string }): void {
    if (!words.length) return;
    const w = at.w ?? WIDTH;
    const h = heightOf(words, size, w) + 0.12;
    this.page.addText(unended(words), {
      objectName: at.name,
      x: at.x ?? WIDE.margin,
      y: this.y,
      w,
      h,
      fontSize: size,
      fontFace: FONT,
      color: at.color ?? INK,
      bold: at.bold ?? false,
      margin: 0,
      valign: 'top',
      align: this.rightToLeft ? 'right' : 'left',
      rtlMode: this.rightToLeft,
      lineSpacingMultiple: 1.1,
    });
    if (at.next !== false) this.y += h + 0.1;
  }

  pictures(blocks: readonly PaperBlock[]): void {
    let x = WIDE.margin;
    let highest = 0;
    for (const r of picturesIn(blocks)) {
      const asset = this.assets[r.asset];
      const picture = pictureOf(asset);
      // without it, its question is asked all the same
      if (!asset || !picture) continue;
      const scale = Math.min(1 / 96, 5 / picture.width, 2.2 / picture.height);
      const [w, h] = [picture.width * scale, picture.height * scale];
      this.page.addImage({ data: `${asset.mediaType};base64,${asset.data}`, x, y: this.y, w, h, altText: r.alt });
      x += w + 0.3;
      highest = Math.max(highest, h);
    }
    if (highest) this.y += highest + 0.15;
  }

  item(s: ItemSlide): void {
    const shown = s.step !== 'question';
    this.page.addText(s.place, { objectName: 'Place', x: WIDE.margin, y: 0.4, w: 3, h: 0.4, fontSize: 16, fontFace: FONT, color: QUIET, margin: 0 });
    this.words(paragraphsOf(s.blocks, {}), s.size.question, { name: 'Question', bold: false });
    this.pictures(s.blocks);
    this.y += 0.15;
    for (const a of s.answers) this.answer(a, s.size, shown);
    this.words(paragraphsOf(s.key, { color: RIGHT, bold: true }), s.size.answers, { name: 'Key', color: RIGHT });
    this.words(paragraphsOf(s.feedback, {}), s.size.answers, { name: 'Feedback', color: QUIET });
    if (s.notes) this.page.addNotes(s.notes);
  }

  private answer(a: PaperAnswer, { answers: size, columns }: ItemSlide['size'], shown: boolean): void {
    const look = (right: boolean): Look => (right && shown ? { color: RIGHT, bold: true } : {});
    switch (a.is) {
      case 'options':
      case 'boxes': {
        const rows =
          a.is === 'options'
            ? a.options.map((o) => ({
                right: o.right,
                words: [{ text: `${o.letter})  `, options: look(o.right) }, ...unended(paragraphsOf(o.blocks, look(o.right)))],
                blocks: o.blocks,
              }))
            : a.words.map((w) => ({ right: w.right, words: [{ text: w.text, options: look(w.right) }], blocks: [] }));
        const width = WIDTH / columns;
        for (let i = 0; i < rows.length; i += columns) {
          const row = rows.slice(i, i + columns);
          row.forEach((o, k) =>
            this.words(ended([...o.words, ...(o.right && shown ? [{ text: '  ✓', options: look(true) }] : [])]), size, {
              name: `Answer ${i + k + 1}`,
              x: WIDE.margin + width * k,
              w: width - 0.2,
              next: k === row.length - 1,
            }),
          );
          for (const o of row) this.pictures(o.blocks);
        }
        return;
      }
      case 'bank':
        return this.words([{ text: a.words.join('  ·  '), options: {} }], size, { name: 'Words' });
      case 'pairs':
        for (let i = 0; i < Math.max(a.lefts.length, a.rights.length); i++) {
          const right = a.rights[i];
          const left = a.lefts[i];
          if (left)
            this.words([{ text: `${i + 1}.  `, options: {} }, ...paragraphsOf(left, {})], size, { name: `Left ${i + 1}`, w: WIDTH / 2 - 0.2, next: !right });
          if (right)
            this.words([{ text: `${right.letter}.  `, options: {} }, ...paragraphsOf(right.blocks, {})], size, {
              name: `Right ${i + 1}`,
              x: WIDE.margin + WIDTH / 2,
              w: WIDTH / 2,
            });
        }
        return;
      case 'steps':
        for (const [i, step] of a.steps.entries()) this.words([{ text: '•  ', options: {} }, ...paragraphsOf(step, {})], size, { name: `Step ${i + 1}` });
        return;
      case 'lines':
      case 'blank':
        return;
    }
  }

  part(s: Exclude<Slide, ItemSlide>): void {
    // a slide of few words has them in its middle
    if (s.is === 'title' || !s.blocks.length) this.y = 2.4;
    if (s.title) this.words([{ text: s.title, options: { breakLine: true } }], s.is === 'title' ? 44 : 32, { name: 'Title', bold: true });
    this.words(paragraphsOf(s.blocks, {}), s.is === 'title' ? 24 : s.size.answers, { name: 'Text' });
    this.pictures(s.blocks);
  }
}

/** Slides as PPTX. Same slides, same bytes. */
export async function pptxOf(slides: readonly Slide[], set: QuizSet): Promise<Uint8Array> {
  // a package of the older sort: some loaders give its class, others a module around it
  const loaded = (await import('pptxgenjs')) as unknown as { default: (new () => Deck) | { default: new () => Deck } };
  const Library = 'default' in loaded.default ? loaded.default.default : loaded.default;
  const deck = new Library();
  deck.layout = 'LAYOUT_WIDE';
  deck.title = set.title;
  deck.company = '';
  deck.author = 'Zakuska';
  const rightToLeft = runsFromRight(languageOf(set));
  if (rightToLeft) deck.rtlMode = true;
  for (const s of slides) {
    const put = new Put(deck.addSlide(), set.assets ?? {}, rightToLeft);
    if (s.is === 'item') put.item(s);
    else put.part(s);
  }
  return sameBytes((await deck.write({ outputType: 'uint8array' })) as Uint8Array);
}
