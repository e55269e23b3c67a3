/** Asks whoever closes the page while something is nowhere else. */
import { useEffect } from 'react';

/** @param waiting something would be lost */
export function useAskBeforeClosing(waiting: boolean): void {
  useEffect(() => {
    if (!waiting) return;
    const ask = (e: BeforeUnloadEvent): void => e.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [waiting]);
}
