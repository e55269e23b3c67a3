/** The doubts of a draft: beside their lines, and below the text where there is no room. */
import type { Diagnostic, Fix } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { useEffect, useMemo, useRef, useState } from 'react';
import { say } from '../words/say.js';
import { retold } from '../words/retold.js';

/** What can be done about a doubt. */
const Fixes = ({ of, onFix }: { of: Diagnostic; onFix: (f: Fix) => void }) =>
  of.fixes?.map((f) => (
    <button key={f.label} type="button" className="link mr-2" onClick={() => onFix(f)}>
      {retold(f.label)}
    </button>
  ));

/** The doubts of a line with what can be done about them, where there is no room beside the lines. */
export function LineDoubts({ doubts, mayEdit, onFix }: { doubts: readonly Diagnostic[]; mayEdit: boolean; onFix: (f: Fix) => void }) {
  if (!doubts.length) return null;
  return (
    <section
      aria-label={say('Doubts of the line')}
      className="grid max-h-40 gap-1.5 overflow-auto border-t border-rule bg-paper px-4 py-1.5 text-[13.5px] sm:px-6 lg:hidden"
    >
      {doubts.map((d) => (
        <div key={`${d.code}${d.from}`} className={`note ${d.severity}`}>
          {retold(d.message)} {mayEdit && <Fixes of={d} onFix={onFix} />}
        </div>
      ))}
    </section>
  );
}

/** The doubts beside their lines; one that would cover another moves down. */
export function DoubtNotes({
  doubts,
  view,
  geometry,
  onFix,
  onGo,
  mayEdit,
}: {
  doubts: readonly Diagnostic[];
  view: EditorView | null;
  geometry: number;
  onFix: (f: Fix) => void;
  onGo: (at: number) => void;
  mayEdit: boolean;
}) {
  const box = useRef<HTMLElement>(null);
  const [tops, setTops] = useState<number[]>([]);
  const shown = useMemo(() => doubts.slice(0, 300), [doubts]);
  useEffect(() => {
    if (!view || !box.current) return;
    let free = 0;
    const heights = Array.from(box.current.querySelectorAll('.note'), (n) => (n as HTMLElement).offsetHeight);
    const offset = view.documentTop - box.current.getBoundingClientRect().top;
    setTops(
      shown.map((d, i) => {
        const top = Math.max(free, d.from <= view.state.doc.length ? view.lineBlockAt(d.from).top + offset + 2 : free);
        free = top + (heights[i] ?? 44) + 10;
        return top;
      }),
    );
  }, [shown, view, geometry]);
  if (!shown.length) return <aside ref={box} aria-hidden className="hidden lg:block" />;
  return (
    <aside ref={box} aria-label={say('Doubts')} className="relative hidden lg:block">
      {shown.map((d, i) => {
        const [head, ...rest] = retold(d.message).split(/(?<=[.:?])\s/);
        return (
          <div key={`${d.code}${d.from}`} className={`note absolute inset-x-0 ${d.severity}`} style={{ top: tops[i] ?? i * 54 }}>
            <button type="button" className="cursor-pointer text-left font-[650] hover:underline" onClick={() => onGo(d.from)}>
              {head}
            </button>{' '}
            {rest.join(' ')} {mayEdit && <Fixes of={d} onFix={onFix} />}
          </div>
        );
      })}
    </aside>
  );
}
