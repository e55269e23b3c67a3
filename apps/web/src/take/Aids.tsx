/** What helps to read: size, spacing, contrast, a line to follow, the page in another language. Kept on the device. */
import { useEffect, useState } from 'react';
import { ownName } from './Languages.js';
import { pageLanguages, useSay } from './words/words.js';

export interface Reading {
  /** Times the usual size. */
  size: number;
  spacing: boolean;
  contrast: boolean;
  ruler: boolean;
  /** Times the usual speed of the voice. */
  speed: number;
  /** The language of the page, where it was chosen. */
  language?: string;
}
const USUAL: Reading = { size: 1, spacing: false, contrast: false, ruler: false, speed: 1 };
const SIZES = [1, 1.25, 1.5, 2] as const;
const SPEEDS = [0.6, 0.8, 1, 1.2, 1.5] as const;
const KEY = 'reading';

/** What was chosen on this device. */
export function loadReading(): Reading {
  try {
    return { ...USUAL, ...(JSON.parse(localStorage.getItem(KEY) ?? '{}') as Partial<Reading>) };
  } catch {
    return USUAL;
  }
}
/** Keeps what was chosen, and puts it on the page. */
export function putReading(r: Reading): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(r));
  } catch {
    /* a private window: it holds for this visit */
  }
  show(r);
}
export function show(r: Reading): void {
  const root = document.documentElement;
  root.style.setProperty('--reading-size', String(r.size));
  root.dataset['spacing'] = r.spacing ? 'wide' : '';
  root.dataset['contrast'] = r.contrast ? 'high' : '';
}

const percent = (n: number): string => `${Math.round(n * 100)} %`;

export function Aids({ reading, page, onChange }: { reading: Reading; page: string; onChange: (r: Reading) => void }) {
  const say = useSay();
  const [open, setOpen] = useState(false);
  const box = (name: 'spacing' | 'contrast' | 'ruler') => (
    <label>
      <input type="checkbox" checked={reading[name]} onChange={(e) => onChange({ ...reading, [name]: e.target.checked })} />
      {say(name)}
    </label>
  );
  return (
    <header className="aids">
      <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {say('reading')}
      </button>
      {open && (
        <div className="aids-panel" role="group" aria-label={say('reading')}>
          <label>
            {say('textSize')}
            <select value={reading.size} onChange={(e) => onChange({ ...reading, size: Number(e.target.value) })}>
              {SIZES.map((s) => (
                <option key={s} value={s}>
                  {percent(s)}
                </option>
              ))}
            </select>
          </label>
          {box('spacing')}
          {box('contrast')}
          {box('ruler')}
          {'speechSynthesis' in window && (
            <label>
              {say('readAloud')}: {say('speed')}
              <select value={reading.speed} onChange={(e) => onChange({ ...reading, speed: Number(e.target.value) })}>
                {SPEEDS.map((s) => (
                  <option key={s} value={s}>
                    {percent(s)}
                  </option>
                ))}
              </select>
            </label>
          )}
          <label>
            {say('pageLanguage')}
            <select value={page} onChange={(e) => onChange({ ...reading, language: e.target.value })}>
              {pageLanguages.map((l) => (
                <option key={l} value={l} lang={l}>
                  {ownName(l)}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      {reading.ruler && <Ruler />}
    </header>
  );
}

/** A band at the height of the pointer, the finger or what has the focus. */
function Ruler() {
  const [top, setTop] = useState(innerHeight / 3);
  useEffect(() => {
    const follow = (e: PointerEvent): void => setTop(e.clientY);
    const focused = (e: FocusEvent): void => {
      const at = (e.target as Element | null)?.getBoundingClientRect();
      if (at) setTop(at.top + Math.min(at.height, 60) / 2);
    };
    addEventListener('pointermove', follow);
    addEventListener('pointerdown', follow);
    addEventListener('focusin', focused);
    return () => {
      removeEventListener('pointermove', follow);
      removeEventListener('pointerdown', follow);
      removeEventListener('focusin', focused);
    };
  }, []);
  return <div className="reading-line" aria-hidden style={{ top }} />;
}
