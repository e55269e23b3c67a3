/** Rich text on learners' pages: the server has sanitised it. Gap markers become numbered blanks. */
import { isMarkup } from '@zakuska/core/markup';
import { useFormulas } from '../ui/formulas.js';

/** The words of a rich text, for where no markup can stand: choices of a list. */
export const plainWords = (text: string): string =>
  isMarkup(text) ? (new DOMParser().parseFromString(text, 'text/html').body.textContent ?? '').replace(/\s+/g, ' ').trim() : text;

export function Text({ text, className = '' }: { text: string; className?: string }) {
  let n = 0;
  const withFormulas = useFormulas(text);
  const html = withFormulas ?? (isMarkup(text) ? text : null);
  if (html !== null)
    return (
      <div
        dir="auto"
        data-say
        className={`rich ${className}`}
        dangerouslySetInnerHTML={{ __html: html.replace(/\[\[[^\][]+\]\]/g, () => `<span class="gap-mark">${++n}</span>`) }}
      />
    );
  return (
    <div dir="auto" data-say className={className} style={{ whiteSpace: 'pre-line' }}>
      {text.split(/\[\[[^\][]+\]\]/).flatMap((part, i) =>
        i
          ? [
              <span key={i} className="gap-mark">
                {i}
              </span>,
              part,
            ]
          : [part],
      )}
    </div>
  );
}
