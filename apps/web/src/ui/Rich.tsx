import { isMarkup, sanitiseRich } from '@zakuska/core';
import { memo } from 'react';
import { useFormulas } from './formulas.js';

const GAP = /\[\[([^\][]+)\]\]/g;
const escaped = (s: string): string => s.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);

/** A rich text as people see it. Gap markers become blanks; `gapText` says what stands in each. */
export const Rich = memo(function Rich({ text, gapText, className = '' }: { text: string; gapText?: Record<string, string>; className?: string }) {
  const clean = isMarkup(text) ? sanitiseRich(text) : text;
  const withFormulas = useFormulas(clean);
  const html = withFormulas ?? (isMarkup(text) ? clean : null);
  if (html !== null) {
    const gaps = html.replace(GAP, (_, id: string) => `<span class="gap ${gapText?.[id] ? 'gap-key' : ''}">${escaped(gapText?.[id] ?? '') || '&nbsp;'}</span>`);
    // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised above; formulas come from temml, which escapes
    return <div dir="auto" className={`rich ${className}`} dangerouslySetInnerHTML={{ __html: gaps }} />;
  }
  const parts = text.split(GAP);
  return (
    <div dir="auto" className={`whitespace-pre-line ${className}`}>
      {parts.map((p, i) =>
        i % 2 ? (
          <span key={i} className={`gap ${gapText?.[p] ? 'gap-key' : ''}`}>
            {gapText?.[p] || '\u00a0'}
          </span>
        ) : (
          p
        ),
      )}
    </div>
  );
});
