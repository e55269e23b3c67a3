/** The table of destinations: where a set can go, and in which of several forms. A new one is a row here. */
import { formatById } from '../formats/index.js';
import { courseLmsProfile } from '../formats/qti/profile.js';
import { everything, holding, allHeld, type Profile } from './profile.js';

export interface Destination {
  id: string;
  name: string;
  /** What arrives there, in a few words. */
  what: string;
  /** Formats of the file, the usual one first; empty where it is no file. */
  formats: readonly string[];
  /** What it holds, where that is not said by a format. */
  profile?: Profile;
}

/** The quiz by link shows what a learner needs to answer; it has no hints and no clock yet. */
export const ownQuizProfile: Profile = { ...everything, keyless: false, holds: holding(allHeld.filter((f) => f !== 'hints' && f !== 'timeLimit')) };

export const destinations: readonly Destination[] = [
  { id: 'own', name: 'Own quiz', what: 'link and code', formats: [], profile: ownQuizProfile },
  { id: 'lms', name: 'Course LMS', what: 'QTI 2.1, pushed', formats: [], profile: courseLmsProfile },
  { id: 'gift', name: 'GIFT', what: 'text file', formats: ['gift'] },
  { id: 'qti', name: 'QTI', what: 'package', formats: ['qti21', 'qti22', 'qti30', 'qti12', 'qti12-bank'] },
  { id: 'cartridge', name: 'Cartridge', what: 'course file', formats: ['cc13', 'cc12', 'cc11', 'cc13-bank', 'cc12-bank', 'cc11-bank'] },
  { id: 'table', name: 'Table', what: 'spreadsheet', formats: ['csv', 'tsv', 'csv-options', 'csv-choices'] },
  { id: 'keep', name: 'Set file', what: 'whole, to keep', formats: ['set', 'text'] },
];

/** What a destination holds; `formatId` says in which of its forms, the usual one where it is not given. */
export const profileOf = (d: Destination, formatId = d.formats[0]): Profile => d.profile ?? formatById(formatId ?? '')?.profile ?? everything;
