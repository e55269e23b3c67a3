/** Columns of the bank: a new one is one row. */
import { keySign, kinds } from '@zakuska/core';
import type { ReactNode } from 'react';
import type { Schemas } from '../api/client.js';
import { known, locale, say } from '../words/say.js';

export type BankRow = Schemas['BankItem'];
interface Column {
  name: string;
  /** rem. */
  width: number;
  /** The order of the server that goes by it. */
  sort?: string;
  /** Figures stand at the right. */
  figure?: true;
  show: (r: BankRow) => ReactNode;
}
const day = (iso: string | undefined): string => (iso ? new Date(iso).toLocaleDateString(locale(), { day: 'numeric', month: 'short', year: '2-digit' }) : '');
const share = (x: number | undefined): string => (x === undefined ? '' : `${Math.round(x * 100)} %`);

/** The columns by their names in the address. The question itself always stands first. */
export const columns: Readonly<Record<string, Column>> = {
  key: { name: say('Key'), width: 3, show: (r) => <span className="font-mono text-dill">{keySign(r.item)}</span> },
  set: { name: say('Set'), width: 9, sort: 'set', show: (r) => r.setTitle },
  folder: { name: say('Folder'), width: 9, sort: 'set', show: (r) => r.path.join(' / ') },
  kind: { name: say('Kind'), width: 7.5, show: (r) => known(kinds[r.item.kind].name) },
  points: { name: say('Points'), width: 4, sort: 'points', figure: true, show: (r) => r.item.points },
  outcomes: { name: say('Outcomes'), width: 9, show: (r) => r.item.outcomes?.join(', ') },
  tags: { name: say('Tags'), width: 7, show: (r) => r.item.tags?.join(', ') },
  level: { name: say('Level'), width: 6, show: (r) => r.item.level?.bloom },
  difficulty: { name: say('Difficulty'), width: 5, sort: 'difficulty', figure: true, show: (r) => share(r.item.level?.difficulty) },
  state: { name: say('State'), width: 5.5, show: (r) => (r.state === 'left-out' ? say('left out') : r.state) },
  answers: { name: say('Answers'), width: 4.5, sort: 'least-used', figure: true, show: (r) => r.use.answers || '' },
  share: { name: say('Earned'), width: 4.5, sort: 'share', figure: true, show: (r) => share(r.use.share) },
  used: { name: say('Last used'), width: 6, sort: 'used', figure: true, show: (r) => day(r.use.at) },
  changed: { name: say('Changed'), width: 6, sort: 'changed', figure: true, show: (r) => day(r.changedAt) },
};
/** What is shown until somebody chooses. */
export const usualColumns: readonly string[] = ['key', 'set', 'kind'];
/** The places of the columns, as a grid's template: the question gets what is left. */
export const templateOf = (shown: readonly string[]): string => `minmax(12rem,1fr) ${shown.map((c) => `${columns[c]?.width ?? 5}rem`).join(' ')}`;
/** The rem that a row needs. */
export const widthOf = (shown: readonly string[]): number => 12 + shown.reduce((n, c) => n + (columns[c]?.width ?? 5) + 0.75, 0);
