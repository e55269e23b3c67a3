/** Instants as pages and fields for date and time show them. */
import { locale } from '../words/say.js';

/** An instant as a field for date and time of this place takes it. */
export const asLocal = (iso: string | undefined): string => {
  if (!iso) return '';
  const d = new Date(iso);
  return new Date(d.getTime() - d.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
};
/** The instant that such a field says; undefined where it is empty. */
export const asInstant = (local: string): string | undefined => (local ? new Date(local).toISOString() : undefined);

/** The day of an instant, without its year: "3 Nov". */
export const shortDay = (iso: string): string => new Date(iso).toLocaleDateString(locale(), { day: 'numeric', month: 'short' });
/** The day and the minute of an instant: "3 Nov 2026, 10:05". */
export const dayAndTime = (iso: string): string => new Date(iso).toLocaleString(locale(), { dateStyle: 'medium', timeStyle: 'short' });
/** The whole day of an instant: "3 Nov 2026". */
export const wholeDay = (iso: string): string => new Date(iso).toLocaleDateString(locale(), { dateStyle: 'medium' });
