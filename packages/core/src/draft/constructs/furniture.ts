/** Rules, page numbers, and headings that are printed again on every page. */
import { headingKey } from '../habits.js';
import { numbered, lettered } from '../labels.js';
import { told } from '../lines.js';
import { CONTINUED, PAGE, PAGE_TAIL } from '../words.js';
import type { Construct } from './construct.js';

const RULE = /^\s*(?:[-–—_=*~•·]\s*){3,}$/;
const FAR_NUMBER = /^\s{12,}[-–—([]*\s*\d{1,3}\s*[-–—)\]]*\s*$/;
/** "Name: ______   Date: ______" */
const NAME_LINE =
  /^\s*(?:name|class|date|score|marks?|group|student|nombre|apellidos|curso|fecha|nom|prénom|classe|klasse|datum|punkte|nome|turma|cognome|data|naam|klas|imię|nazwisko|klasa|имя|фамилия|класс|прізвище|ім'я|клас|ad[ıi]|soyad[ıi]|s[ıi]n[ıi]f|tarih)(?![\p{L}])[^?]{0,60}(?:_{3,}|\.{5,}|…{2,}|:\s*$|:\s{3,})/iu;

/** The same behind the title: "Unit 7 revision         Name ........" */
const NAME_TAIL =
  /\S(?:\s{3,}|\t)\s*(?:name|class|date|score|marks?|group|nombre|curso|fecha|nom|prénom|classe|klasse|datum|punkte|nome|turma|data|naam|klas|imię|klasa|имя|класс|прізвище|ім'я|клас|ad[ıi]|tarih)\s*:?\s*(?:_{3,}|\.{5,}|…{2,}|[_\s]*$)/iu;

export const furniture: Construct = {
  name: 'furniture of the page',
  read(o, line) {
    const t = line.text;
    if (t.length > 200) return false;
    const blank = /^\s*[_.…\s]{4,}$/.test(t);
    if (RULE.test(t) && !(blank && o.block)) return o.say(line, 'aside', '', 'A rule.');
    if (PAGE.test(t.trim()) || FAR_NUMBER.test(t)) return o.aside(line, 'A page number.');
    if (/^\s*(?:[_.…\s]{6,}|[.…\s]*_{4,}[\s_]*)$/.test(t)) return o.say(line, 'aside', '', 'A line to write on.');
    if (told(line, numbered) ?? told(line, lettered)) return false;
    if (PAGE_TAIL.test(t)) return o.aside(line, 'The head or the foot of a page.');
    if (CONTINUED.test(t) && o.habits.repeated.has(headingKey(t))) return o.aside(line, 'A heading that is printed again.');
    if (NAME_TAIL.test(t)) return o.aside(line, 'A title with a line to write a name on.');
    if (NAME_LINE.test(t) && (!o.block || o.blankBefore)) return o.aside(line, 'A line to write a name on.');
    return false;
  },
};
