/** Transcripts with times: SubRip and WebVTT (W3C WebVTT, 4 "Syntax"; SubRip by common practice, no source). */

/** Words that are said from one second to another. */
export interface Cue {
  from: number;
  to: number;
  text: string;
}

const TIME = /(?:(\d{1,3}):)?(\d{1,2}):(\d{2})[.,](\d{1,3})/.source;
const TIMES = new RegExp(`^\\s*${TIME}\\s*-->\\s*${TIME}`);
const seconds = (m: readonly (string | undefined)[], at: number): number =>
  Number(m[at] ?? 0) * 3600 + Number(m[at + 1]) * 60 + Number(m[at + 2]) + Number((m[at + 3] ?? '0').padEnd(3, '0')) / 1000;

/** Whether a text is a transcript: a WebVTT signature, or a number and two times at its start. */
export const looksLikeSubtitles = (text: string): boolean =>
  /^\uFEFF?WEBVTT(?:[ \t\n\r]|$)/.test(text) || /^\uFEFF?\s*\d+[^\S\n]*\n\s*[\d:]+,\d+\s*-->/.test(text);

/** The cues of a transcript in order, without marks of voices, classes and styles. A cue that cannot be read is left out. */
export function readSubtitles(text: string): Cue[] {
  const out: Cue[] = [];
  for (const block of text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .split(/\n{2,}/)) {
    const lines = block.split('\n');
    const at = lines.findIndex((l) => TIMES.test(l));
    if (at < 0) continue;
    const m = TIMES.exec(lines[at] ?? '') as RegExpExecArray;
    const words = lines
      .slice(at + 1)
      .map((l) =>
        l
          .replace(/<[^<>]*>|\{\\[^{}]*\}/g, '')
          .replace(/&amp;/g, '&')
          .replace(/&lt;/g, '<')
          .replace(/&gt;/g, '>')
          .replace(/&nbsp;|&lrm;|&rlm;/g, ' ')
          .trim(),
      )
      .filter(Boolean)
      .join(' ');
    // what is shown again on a second line of rolling captions is said once
    if (words && out[out.length - 1]?.text !== words) out.push({ from: seconds(m, 1), to: seconds(m, 5), text: words });
  }
  return out;
}

/** A time as people say it: "1:05", "1:02:07". */
export function clock(s: number): string {
  const whole = Math.floor(s);
  const [h, m, rest] = [Math.floor(whole / 3600), Math.floor((whole % 3600) / 60), whole % 60];
  const two = (n: number): string => String(n).padStart(2, '0');
  return h ? `${h}:${two(m)}:${two(rest)}` : `${m}:${two(rest)}`;
}
