/** Pictures of a rich text while it is edited: the text shows a short sign for each, the pictures are changed beside it. */

export interface Picture {
  /** The whole element as it stands in the text. */
  markup: string;
  src: string;
  alt: string;
  /** In pixels; null where the picture has its own size. */
  width: number | null;
}
const IMG = /<img\b[^>]*\/?>/g;
const attribute = (markup: string, name: string): string => new RegExp(`\\s${name}="([^"]*)"`).exec(markup)?.[1] ?? '';
const plain = (s: string): string =>
  s
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');
const escaped = (s: string): string => s.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** The pictures of a text, in order. */
export const picturesIn = (rich: string): Picture[] =>
  Array.from(rich.matchAll(IMG), ([markup]) => ({
    markup,
    src: attribute(markup, 'src'),
    alt: plain(attribute(markup, 'alt')),
    width: Number.parseInt(attribute(markup, 'width'), 10) || null,
  }));

const sign = (n: number): string => `⟦picture ${n}⟧`;
/** The text with signs for its pictures. */
export function withSigns(rich: string): string {
  let n = 0;
  return rich.replace(IMG, () => sign(++n));
}
/** A text with signs, with its pictures again. A picture whose sign was taken out is gone. */
export function withPictures(text: string, pictures: readonly Picture[]): string {
  return text.replace(/⟦picture (\d+)⟧/g, (whole, n: string) => pictures[Number(n) - 1]?.markup ?? whole);
}
/** The text with one picture changed, or taken out where `change` is null. */
export function changed(rich: string, at: number, change: { alt?: string; width?: number | null } | null): string {
  let n = -1;
  return rich.replace(IMG, (markup) => {
    if (++n !== at) return markup;
    if (!change) return '';
    const [was] = picturesIn(markup);
    const alt = change.alt ?? was?.alt ?? '';
    const width = change.width === undefined ? (was?.width ?? null) : change.width;
    return `<img src="${was?.src ?? ''}" alt="${escaped(alt)}"${width ? ` width="${Math.round(width)}"` : ''}/>`;
  });
}
