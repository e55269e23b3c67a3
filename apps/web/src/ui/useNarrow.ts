/** Whether the window is too narrow for two columns: a phone, a tablet upright, or a small screen at 200 %. */
import { useSyncExternalStore } from 'react';

// where Tailwind's "lg" begins
const narrow = matchMedia('(max-width: 1023.9px)');
const subscribe = (told: () => void): (() => void) => {
  narrow.addEventListener('change', told);
  return () => narrow.removeEventListener('change', told);
};

/** For what has to stand in another order there; what only looks otherwise has classes. */
export const useNarrow = (): boolean => useSyncExternalStore(subscribe, () => narrow.matches);
