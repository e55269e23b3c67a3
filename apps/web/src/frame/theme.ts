import { useSyncExternalStore } from 'react';

export type Theme = 'light' | 'dark';
const KEY = 'zakuska-theme';
const dark = matchMedia('(prefers-color-scheme: dark)');
const listeners = new Set<() => void>();

export const theme = (): Theme => (localStorage.getItem(KEY) as Theme | null) ?? (dark.matches ? 'dark' : 'light');
export function showTheme(): void {
  document.documentElement.dataset['theme'] = theme();
  for (const l of listeners) l();
}
export function setTheme(t: Theme): void {
  localStorage.setItem(KEY, t);
  showTheme();
}
dark.addEventListener('change', showTheme);

export const useTheme = (): Theme =>
  useSyncExternalStore((l) => {
    listeners.add(l);
    return () => listeners.delete(l);
  }, theme);
