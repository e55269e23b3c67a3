import type { MemberRole } from '@zakuska/core';
import { say } from '../words/say.js';

/** What each role may do, in the words of the screens. */
export const ROLE_WORDS: Record<MemberRole, { name: string; may: string }> = {
  reader: { name: say('Reader'), may: say('sees sets and results') },
  marker: { name: say('Marker'), may: say('marks answers too') },
  editor: { name: say('Editor'), may: say('makes, changes and delivers sets') },
  administrator: { name: say('Administrator'), may: say('also sees to members, services and the log') },
  owner: { name: say('Owner'), may: say('everything, also deleting the workspace') },
};

/**
 * A browser by what it says it is ("Firefox on Linux"), as far as that can be told.
 * @param agent the header User-Agent; empty for none
 */
export function browserWords(agent: string): string {
  const browser = (
    [
      ['Edge', /\bEdg/],
      ['Opera', /\bOPR\//],
      ['Firefox', /\bFirefox\/|\bFxiOS\//],
      ['Chrome', /Chrome\/|\bCriOS\//],
      ['Safari', /\bSafari\//],
    ] as const
  ).find(([, sign]) => sign.test(agent))?.[0];
  const system = (
    [
      ['iPad', /\biPad\b/],
      ['iPhone', /\biPhone\b/],
      ['Android', /\bAndroid\b/],
      ['Windows', /\bWindows\b/],
      ['macOS', /\bMac OS X\b/],
      ['ChromeOS', /\bCrOS\b/],
      ['Linux', /\bLinux\b/],
    ] as const
  ).find(([, sign]) => sign.test(agent))?.[0];
  if (browser && system) return say('{browser} on {system}', { browser, system });
  return browser ?? system ?? (agent ? agent.slice(0, 40) : say('A browser that does not say its name'));
}

/**
 * Mail addresses in what somebody pasted: a list, lines of a table, "Name <address>" of a mail.
 * @returns each address once, in small letters; `others` are words with an @ that are none
 */
export function addressesIn(text: string): { addresses: string[]; others: string[] } {
  const words = text.split(/[\s,;<>"()]+/).filter((w) => w.includes('@'));
  const isAddress = (w: string): boolean => /^[^@\s]+@[^@\s.]+(?:\.[^@\s.]+)+$/.test(w);
  const tidy = words.map((w) =>
    w
      .replace(/^mailto:/i, '')
      .replace(/\.$/, '')
      .toLowerCase(),
  );
  return { addresses: [...new Set(tidy.filter(isAddress))], others: tidy.filter((w) => !isAddress(w)) };
}
