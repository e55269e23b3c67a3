/** The table of destinations: where a set can go, and in which of several forms. A new one is a row here, or of services/. What each holds is said in profileOf.ts. */
import { layoutFormat, layoutNames } from '../formats/table/layoutTable.js';
import { serviceRows } from '../services/table.js';

/** Somewhere a set can go. */
export interface Destination {
  id: string;
  name: string;
  /** What arrives there, in a few words. */
  what: string;
  /** Forms of the file, by the formats that write them, the usual one first; empty where it is no file. */
  forms: readonly { format: string; name: string }[];
}

const form = (format: string, name: string): { format: string; name: string } => ({ format, name });

/** Whether a form is set by a server or the command line: no browser does it. */
export const isPrinted = (form: string): boolean => form.startsWith('pdf-') || form.endsWith('-sheet');

/** The table of destinations, in the order of the screens. */
export const destinations: readonly Destination[] = [
  { id: 'own', name: 'Own quiz', what: 'link and code', forms: [] },
  ...Object.values(serviceRows).map(({ id, name, what }) => ({ id, name, what, forms: [] })),
  { id: 'gift', name: 'GIFT', what: 'text file', forms: [form('gift', 'GIFT')] },
  {
    id: 'qti',
    name: 'QTI',
    what: 'package',
    forms: [
      form('qti21', 'QTI 2.1 package'),
      form('qti22', 'QTI 2.2 package'),
      form('qti30', 'QTI 3.0 package'),
      form('qti12', 'QTI 1.2 package'),
      form('qti12-bank', 'QTI 1.2 item bank'),
      form('qti21-bank', 'QTI 2.1 items for a bank'),
      form('qti22-bank', 'QTI 2.2 items for a bank'),
      form('qti30-bank', 'QTI 3.0 items for a bank'),
    ],
  },
  {
    id: 'cartridge',
    name: 'Cartridge',
    what: 'course file',
    forms: [
      ...['13', '12', '11'].map((v) => form(`cc${v}`, `Common Cartridge ${v[0]}.${v[1]}`)),
      ...['13', '12', '11'].map((v) => form(`cc${v}-bank`, `Common Cartridge ${v[0]}.${v[1]}, question bank`)),
    ],
  },
  {
    id: 'table',
    name: 'Table',
    what: 'spreadsheet',
    forms: [
      ...layoutNames.map(({ id, name }) => form(layoutFormat('xlsx', id), `XLSX, ${name}`)),
      ...layoutNames.map(({ id, name }) => form(layoutFormat('csv', id), `CSV, ${name}`)),
      form('tsv', 'TSV, a row for each item'),
    ],
  },
  {
    id: 'paper',
    name: 'Paper',
    what: 'to print',
    forms: [
      ...[
        ['docx', 'DOCX'],
        ['pdf', 'PDF'],
        ['html', 'Web page'],
        ['markdown', 'Markdown'],
      ].flatMap(([id, name]) => [
        // what learners get is first: nobody prints the key by mistake
        form(`${id}-questions`, `${name}, questions`),
        // a page and a text that hold both are read again: they are formats of their own
        form(id === 'html' || id === 'markdown' ? id : `${id}-paper`, `${name}, questions and key`),
        form(`${id}-key`, `${name}, key`),
        form(`${id}-guide`, `${name}, marking guide for open questions`),
        // it is read by where its circles stand, which Markdown cannot say
        ...(id === 'markdown' ? [] : [form(`${id}-sheet`, `${name}, answer sheet`)]),
      ]),
      form('docx-import', 'DOCX for importers, without keys'),
      form('docx-import-starred', 'DOCX for importers, keys starred'),
      form('docx-import-bold', 'DOCX for importers, keys in bold'),
    ],
  },
  { id: 'slides', name: 'Slides', what: 'to talk over', forms: [form('pptx', 'PPTX')] },
  { id: 'keep', name: 'Set file', what: 'whole, to keep', forms: [form('set', 'Set file'), form('text', 'Text in the notation')] },
];
