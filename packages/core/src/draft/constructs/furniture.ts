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

type Furniture = 'rule' | 'page' | 'write-on' | 'foot' | 'named title' | 'again' | 'name' | '';
function furnitureIn(t: string): Furniture {
  if (t.length > 200) return '';
  if (RULE.test(t)) return /^\s*[_.…\s]{4,}$/.test(t) ? 'write-on' : 'rule';
  if (/\d/.test(t) || t.length < 40) if (PAGE.test(t.trim()) || FAR_NUMBER.test(t)) return 'page';
  if (/^\s*(?:[_.…\s]{6,}|[.…\s]*_{4,}[\s_]*)$/.test(t)) return 'write-on';
  if (numbered(t) ?? lettered(t)) return '';
  if (PAGE_TAIL.test(t)) return 'foot';
  if (/[_.…:]/.test(t) || /\s{3}|\t/.test(t)) {
    if (NAME_TAIL.test(t)) return 'named title';
    if (NAME_LINE.test(t)) return 'name';
  }
  return CONTINUED.test(t) ? 'again' : '';
}

export const furniture: Construct = {
  name: 'furniture of the page',
  read(o, line) {
    switch (told(line, furnitureIn)) {
      case 'rule':
        return o.say(line, 'aside', '', 'A rule.');
      case 'write-on':
        return o.say(line, 'aside', '', 'A line to write on.');
      case 'page':
        return o.aside(line, 'A page number.');
      case 'foot':
        return o.aside(line, 'The head or the foot of a page.');
      case 'again':
        return o.habits.repeated.has(headingKey(line.text)) && o.aside(line, 'A heading that is printed again.');
      case 'named title':
        return o.aside(line, 'A title with a line to write a name on.');
      case 'name':
        return (!o.block || o.blankBefore) && o.aside(line, 'A line to write a name on.');
      default:
        return false;
    }
  },
};
