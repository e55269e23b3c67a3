/** The clock of the server as this page knows it: that of the device may be wrong. */
let ahead = 0;
/** The server has just said what time it is. @param now ISO 8601 */
export const heardTime = (now: string): void => void (ahead = Date.parse(now) - Date.now());
/** The time at the server, in milliseconds. */
export const serverNow = (): number => Date.now() + ahead;

/** What is left of a time, as minutes and seconds, with hours where there are any. @param ms less than 0 is nothing */
export function leftOf(ms: number): string {
  const s = Math.max(0, Math.ceil(ms / 1000));
  const two = (n: number): string => String(n).padStart(2, '0');
  const [h, m] = [Math.floor(s / 3600), Math.floor(s / 60) % 60];
  return h ? `${h}:${two(m)}:${two(s % 60)}` : `${m}:${two(s % 60)}`;
}
/** A moment as people of a language write it, with the zone that it is in. @param at ISO 8601 */
export const moment = (at: string, language: string): string =>
  new Date(at).toLocaleString(language, { weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', timeZoneName: 'short' });
