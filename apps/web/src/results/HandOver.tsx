/** Results on their way out: as a workbook, as tables, for gradebooks, or into a sheet that somebody has. */
import {
  classReport,
  csvText,
  type FilledSheet,
  fillSheetOf,
  oneRosterZip,
  pseudonymous,
  qtiResultsZip,
  reportPaper,
  type Results,
  resultSheets,
  scoreSheet,
  textRows,
} from '@zakuska/core';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../api/client.js';
import { Button } from '../ui/Button.js';
import { copyText } from '../ui/copyText.js';
import { TextArea } from '../ui/Field.js';
import { Modal } from '../ui/Modal.js';
import { saveFile } from '../ui/saveFile.js';
import { tabbed } from '../ui/tabbed.js';
import { reportFile } from './reportFile.js';
import { away } from './worker.js';
import { say } from '../words/say.js';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const encoded = (text: string): Uint8Array => new TextEncoder().encode(text);

interface Way {
  name: string;
  /** What it is for. */
  about: string;
  extension: string;
  mediaType: string;
  /** Names are what it is for. */
  named?: true;
  write: (results: Results, source: string) => Promise<Uint8Array> | Uint8Array;
}
const PDF = 'application/pdf';
/** A further way out is a row here. */
const WAYS: readonly Way[] = [
  {
    name: say('Workbook (XLSX)'),
    about: say('Scores, answers, how each item worked, and the key, a sheet each.'),
    extension: '.xlsx',
    mediaType: XLSX,
    write: (r) => away.call((remote) => remote.workbook(resultSheets(r))),
  },
  {
    name: say('Reports (PDF)'),
    about: say('For each person: what they answered, what it earned, the key where it was missed; each from a page of its own.'),
    extension: ' reports.pdf',
    mediaType: PDF,
    write: (r) => reportFile(reportPaper(r), r.set),
  },
  {
    name: say('Report of the class (PDF)'),
    about: say('Everybody with their points, and the items, the most missed first.'),
    extension: ' class.pdf',
    mediaType: PDF,
    write: (r) => reportFile(classReport(r), r.set),
  },
  {
    name: say('Scores (CSV)'),
    about: say('Who has how much, with the points for each item.'),
    extension: '.csv',
    mediaType: 'text/csv',
    write: (r) => encoded(csvText(textRows(scoreSheet(r)))),
  },
  {
    name: say('OneRoster 1.1 (CSV)'),
    about: say('For gradebooks that take it: one column, a result for each person by their number in the class list.'),
    extension: '.zip',
    mediaType: 'application/zip',
    named: true,
    write: (r, source) => oneRosterZip(r, source, new Date().toISOString()),
  },
  {
    name: say('QTI results 2.1 (XML)'),
    about: say('A document for each person, with all answers and points.'),
    extension: '.zip',
    mediaType: 'application/zip',
    write: (r) => qtiResultsZip(r),
  },
];

interface Props {
  /** The delivery or placement that they are of. */
  source: string;
  results: Results;
  onClose: () => void;
}
export function HandOver({ source, results, onClose }: Props) {
  const [nameless, setNameless] = useState(false);
  const out = useMemo(() => (nameless ? pseudonymous(results) : results), [nameless, results]);
  const writing = useMutation({
    mutationFn: async (w: Way) => saveFile(await w.write(w.named ? results : out, source), `${results.set.title} results${w.extension}`, w.mediaType),
    onError: (e) => toast.error(say('The file was not written: {words}', { words: wordsOf(e) })),
  });
  return (
    <Modal open wide onClose={onClose} title={say('Hand the results over')}>
      <label className="mb-3 flex items-center gap-2 text-sm">
        <input type="checkbox" checked={nameless} onChange={(e) => setNameless(e.target.checked)} />
        {say('Without names: Person 1, Person 2 …')}
      </label>
      <ul className="grid gap-2">
        {WAYS.map((w) => (
          <li key={w.name} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule-2 pb-2">
            <span className="flex-1 basis-64 text-sm">
              <b>{w.name}</b>
              <br />
              <span className="text-ink-2">{w.named && nameless ? say('Names are what it is for, so it has none to hide.') : w.about}</span>
            </span>
            <Button
              disabled={(w.named && nameless) || writing.isPending}
              onClick={() => writing.mutate(w)}
              aria-label={say('Download {name}', { name: w.name })}
            >
              {say('Download')}
            </Button>
          </li>
        ))}
      </ul>
      <OwnSheet results={results} />
    </Modal>
  );
}

/** A sheet that somebody has: its headings are pasted, its cells come back filled. */
function OwnSheet({ results }: { results: Results }) {
  const [text, setText] = useState('');
  const filled = useMemo(() => (text.trim() ? fillSheetOf(results, text) : null), [results, text]);
  return (
    <section aria-label={say('Into a sheet of yours')} className="mt-4">
      <h3 className="font-bold">{say('Into a sheet of yours')}</h3>
      <p className="text-sm text-ink-2">
        {say(
          'Copy its headings, with the rows of people if there are any, and paste them here. What comes back has the same rows and columns, to be pasted over them.',
        )}
      </p>
      <TextArea
        aria-label={say('Headings and rows of your sheet')}
        rows={3}
        className="mt-2 font-mono text-[13px]"
        value={text}
        onChange={(e) => setText(e.target.value)}
        placeholder={'Name\tWeek one\tWeek two'}
      />
      {filled && <Filled filled={filled} />}
    </section>
  );
}

const list = (names: readonly string[]): string => `${names.slice(0, 8).join(', ')}${names.length > 8 ? say(' and {n} more', { n: names.length - 8 }) : ''}`;

function Filled({ filled }: { filled: FilledSheet }) {
  const { rows, missing, unsure } = filled;
  if (!filled.filled)
    return (
      <p role="alert" className="mt-2 text-sm text-brick">
        {say('Nothing of it could be filled. It needs a column with names, and one for the points: call it “Points” or as the quiz is called.')}
      </p>
    );
  return (
    <div className="mt-2 grid gap-1 text-sm">
      <p role="status">
        {say('{filled, plural, one {# cell is} other {# cells are}} filled, in {rows, plural, one {# row} other {# rows}}.', {
          filled: filled.filled,
          rows: rows.length,
        })}
      </p>
      {unsure.length > 0 && <p className="text-amber">{say('Who is meant is not sure, so these rows stay as they were: {list}.', { list: list(unsure) })}</p>}
      {missing.length > 0 && <p className="text-amber">{say('These handed in and have no row: {list}.', { list: list(missing) })}</p>}
      <Button
        look="primary"
        className="justify-self-start"
        onClick={() => copyText(tabbed(rows), say('The rows are in the clipboard. Paste them below your headings.'))}
      >
        {say('Copy the rows')}
      </Button>
    </div>
  );
}
