import { isMarkup, sanitiseRich } from '@zakuska/core';
import { memo } from 'react';

/** A rich text as people see it. Gap markers become blanks; `gapText` says what stands in each. */
export const Rich = memo(function Rich({ text, gapText, className = '' }: { text: string; gapText?: Record<string, string>; className?: string }) {
  if (isMarkup(text)) {
    const html = sanitiseRich(text).replace(
      /\[\[([^\][]+)\]\]/g,
      (_, id: string) => `<span class="gap">${(gapText?.[id] ?? '').replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`) || '&nbsp;'}</span>`,
    );
    // biome-ignore lint/security/noDangerouslySetInnerHtml: sanitised on the line above
    return <div dir="auto" className={`rich ${className}`} dangerouslySetInnerHTML={{ __html: html }} />;
  }
  const parts = text.split(/\[\[([^\][]+)\]\]/);
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
