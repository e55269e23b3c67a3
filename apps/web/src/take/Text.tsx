/** Rich text on learners' pages: the server has sanitised it. Gap markers become numbered blanks. */
import { isMarkup } from '@zakuska/core/markup';

export function Text({ text, className = '' }: { text: string; className?: string }) {
  let n = 0;
  if (isMarkup(text)) {
    const html = text.replace(/\[\[[^\][]+\]\]/g, () => `<span class="gap-mark">${++n}</span>`);
    return <div dir="auto" className={`rich ${className}`} dangerouslySetInnerHTML={{ __html: html }} />;
  }
  return (
    <div dir="auto" className={className} style={{ whiteSpace: 'pre-line' }}>
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
