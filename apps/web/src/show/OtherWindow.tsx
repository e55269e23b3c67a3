/** A second window of the page: what is drawn in it lives here, so both show the same. */
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { createPortal } from 'react-dom';

/** Draws the children in a window of their own. @param onClose it was closed; `blocked` where the browser did not open it */
export function OtherWindow({
  title,
  onClose,
  onKey,
  children,
}: {
  title: string;
  onClose: (blocked: boolean) => void;
  onKey: (e: KeyboardEvent) => void;
  children: ReactNode;
}) {
  const [home, setHome] = useState<HTMLElement | null>(null);
  const newest = useRef({ onClose, onKey });
  newest.current = { onClose, onKey };
  useEffect(() => {
    const other = window.open('', '', 'popup,width=1100,height=720');
    if (!other) {
      newest.current.onClose(true);
      return;
    }
    const { document: page } = other;
    page.title = title;
    page.documentElement.lang = 'en';
    Object.assign(page.documentElement.dataset, { ...document.documentElement.dataset });
    for (const style of document.querySelectorAll('link[rel=stylesheet], style')) page.head.append(page.importNode(style, true));
    const main = page.createElement('main');
    page.body.append(main);
    const key = (e: KeyboardEvent): void => newest.current.onKey(e);
    const gone = (): void => newest.current.onClose(false);
    page.addEventListener('keydown', key);
    other.addEventListener('pagehide', gone);
    setHome(main);
    return () => {
      other.removeEventListener('pagehide', gone);
      other.close();
    };
  }, [title]);
  return home && createPortal(children, home);
}
