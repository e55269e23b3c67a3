/** Rich text of the model to and from what the editor holds: formulas and gaps become elements, and texts again. */
import { isMarkup, richToXhtml, sanitiseRich, texOfMathML, tidyRich, unescapeXml } from '@zakuska/core';
import { say } from '../words/say.js';

const SPECIAL = /\\\(([\s\S]*?)\\\)|\\\[([\s\S]*?)\\\]|\[\[([^\][]+)\]\]/g;

/** What the editor is given. */
export function toEditor(rich: string): string {
  const page = new DOMParser().parseFromString(
    `<!doctype html><html><body>${isMarkup(rich) ? sanitiseRich(rich) : richToXhtml(rich)}</body></html>`,
    'text/html',
  );
  for (const math of page.body.querySelectorAll('math')) {
    const tex = texOfMathML(math.outerHTML);
    math.replaceWith(tex ? `\\(${tex}\\)` : (math.textContent ?? ''));
  }
  const walk = page.createTreeWalker(page.body, NodeFilter.SHOW_TEXT);
  const texts: Text[] = [];
  for (let n = walk.nextNode(); n; n = walk.nextNode()) if (!n.parentElement?.closest('code, pre')) texts.push(n as Text);
  for (const t of texts) {
    if (!new RegExp(SPECIAL.source).test(t.data)) continue;
    const pieces: (string | Node)[] = [];
    let at = 0;
    for (const m of t.data.matchAll(SPECIAL)) {
      pieces.push(t.data.slice(at, m.index));
      const span = page.createElement('span');
      if (m[3] !== undefined) span.setAttribute('data-gap', m[3]);
      else {
        span.setAttribute('data-tex', m[1] ?? m[2] ?? '');
        if (m[2] !== undefined) span.setAttribute('data-display', '');
      }
      pieces.push(span);
      at = m.index + m[0].length;
    }
    pieces.push(t.data.slice(at));
    t.replaceWith(...pieces);
  }
  return page.body.innerHTML;
}

/** What the editor holds, as rich text of the model: plain text where nothing of it is markup. */
export function fromEditor(html: string): string {
  const page = new DOMParser().parseFromString(`<!doctype html><html><body>${html}</body></html>`, 'text/html');
  for (const s of page.body.querySelectorAll('span[data-tex]')) {
    const tex = s.getAttribute('data-tex') ?? '';
    s.replaceWith(s.hasAttribute('data-display') ? `\\[${tex}\\]` : `\\(${tex}\\)`);
  }
  for (const s of page.body.querySelectorAll('span[data-gap]')) s.replaceWith(`[[${s.getAttribute('data-gap') ?? ''}]]`);
  // the editor puts a paragraph into every cell and list item
  for (const cell of page.body.querySelectorAll('li, td, th')) {
    const [only, ...more] = [...cell.children].filter((c) => c.tagName === 'P');
    if (only && !more.length && cell.firstElementChild === only) only.replaceWith(...only.childNodes);
    for (const a of ['colspan', 'rowspan']) if (cell.getAttribute(a) === '1') cell.removeAttribute(a);
  }
  // an empty paragraph at the end is where the caret was
  for (
    let last = page.body.lastElementChild;
    last && last !== page.body.firstElementChild && last.tagName === 'P' && !last.innerHTML.trim();
    last = page.body.lastElementChild
  )
    last.remove();
  const rich = tidyRich(sanitiseRich(page.body.innerHTML));
  const plain = rich.replace(/<br\/>/g, '\n');
  if (/<[^>]*>/.test(plain)) return rich;
  const text = unescapeXml(plain);
  return isMarkup(text) ? rich : text;
}

/** A picture as a data address, no larger than it has to be: wide ones are scaled down to 1,600 pixels, heavy ones written anew. */
export async function pictureData(file: Blob): Promise<string> {
  const MOST = 1600;
  const HEAVY = 400_000;
  const bitmap = await createImageBitmap(file);
  const keep = /^image\/(png|jpeg|gif|webp)$/.test(file.type) && file.size <= HEAVY && Math.max(bitmap.width, bitmap.height) <= MOST;
  if (keep) {
    bitmap.close();
    return new Promise((resolve, reject) => {
      const reader = new FileReader();
      reader.onload = () => resolve(String(reader.result));
      reader.onerror = () => reject(new Error(say('The picture could not be read.')));
      reader.readAsDataURL(file);
    });
  }
  const scale = Math.min(1, MOST / Math.max(bitmap.width, bitmap.height));
  return drawn(bitmap, { x: 0, y: 0, width: bitmap.width, height: bitmap.height }, scale);
}

/** A part of a picture, drawn anew. */
export function drawn(image: CanvasImageSource, part: { x: number; y: number; width: number; height: number }, scale: number): string {
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(part.width * scale));
  canvas.height = Math.max(1, Math.round(part.height * scale));
  canvas.getContext('2d')?.drawImage(image, part.x, part.y, part.width, part.height, 0, 0, canvas.width, canvas.height);
  const png = canvas.toDataURL('image/png');
  // photographs are much smaller as JPEG; drawings and screenshots are not
  const jpeg = canvas.toDataURL('image/jpeg', 0.88);
  return png.length <= jpeg.length * 1.4 ? png : jpeg;
}
