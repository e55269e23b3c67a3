/** The doubts of a draft, beside their lines. */
import type { Diagnostic, Fix } from '@zakuska/core';
import type { EditorView } from '@codemirror/view';
import { useEffect, useMemo, useRef, useState } from 'react';

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
  if (!shown.length) return <aside ref={box} className="hidden lg:block" />;
  return (
    <aside ref={box} aria-label="Doubts" className="relative hidden lg:block">
      {shown.map((d, i) => {
        const [head, ...rest] = d.message.split(/(?<=[.:?])\s/);
        return (
          <div key={`${d.code}${d.from}`} className={`note absolute inset-x-0 ${d.severity}`} style={{ top: tops[i] ?? i * 54 }}>
            <button type="button" className="cursor-pointer text-left font-[650] hover:underline" onClick={() => onGo(d.from)}>
              {head}
            </button>{' '}
            {rest.join(' ')}{' '}
            {mayEdit &&
              d.fixes?.map((f) => (
                <button key={f.label} type="button" className="link mr-2" onClick={() => onFix(f)}>
                  {f.label}
                </button>
              ))}
          </div>
        );
      })}
    </aside>
  );
}
