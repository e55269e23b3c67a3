import { clock, looksLikeSubtitles, readSubtitles } from './subtitles.js';

// The forms of W3C WebVTT, 1.1 "A simple caption file" and 1.2 "Caption cues with multiple lines", with words of our own.
const VTT = `WEBVTT

NOTE made up for this test

STYLE
::cue { color: red }

1
00:11.000 --> 00:13.500 line:0 position:20%
<v Mara>We feed the <i>starter</i> twice a day &amp; keep it warm.

01:00:02.000 --> 01:00:05.250
- It should double
- in four hours.
`;
const SRT = '1\r\n00:00:01,000 --> 00:00:02,500\r\n<i>Bread</i> begins here.\r\n\r\n2\r\n00:01:05,000 --> 00:01:09,000\r\nAdd {\\an8}the salt\r\nlast.\r\n';

test('WebVTT: notes, styles, settings and voices go, times stay', () => {
  expect(looksLikeSubtitles(VTT)).toBe(true);
  expect(readSubtitles(VTT)).toEqual([
    { from: 11, to: 13.5, text: 'We feed the starter twice a day & keep it warm.' },
    { from: 3602, to: 3605.25, text: '- It should double - in four hours.' },
  ]);
});
test('SubRip: numbers go, lines of a cue are joined', () => {
  expect(looksLikeSubtitles(SRT)).toBe(true);
  expect(readSubtitles(SRT)).toEqual([
    { from: 1, to: 2.5, text: 'Bread begins here.' },
    { from: 65, to: 69, text: 'Add the salt last.' },
  ]);
});
test('a draft is no transcript', () => {
  expect(looksLikeSubtitles('1. What --> is this?\na) one')).toBe(false);
  expect(readSubtitles('WEBVTT\n\nnot a cue')).toEqual([]);
});
test('times as people say them', () => {
  expect([5, 65, 3727].map(clock)).toEqual(['0:05', '1:05', '1:02:07']);
});
