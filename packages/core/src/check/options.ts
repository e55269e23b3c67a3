/** Options as the rules look at them. */
import { plainOf } from '../item/richText.js';
import type { Item, Option } from '../item/model.js';
import { letterOf } from '../item/kinds.js';
import { parseNumber } from '../language/numbers.js';

/** The options of an item; none for kinds that have no options. */
export const optionsOf = (i: Item): Option[] => ('options' in i ? i.options : []);
/** Those options that earn something. */
export const keysOf = (options: readonly Option[]): Option[] => options.filter((o) => o.credit > 0);
/** The letter of an option among its fellows. */
export const letterIn = (options: readonly Option[], o: Option): string => letterOf(options.indexOf(o));

/** An option that says all of the others, in the languages of the reader; from memory. */
export const ALL_ABOVE =
  /^(?:all|both|each) of (?:the above|these|them)\b|^alle (?:genannten|antworten)|^todas las anteriores|^toutes ces réponses|^todas as anteriores|^tutte le precedenti|^alle bovenstaande|^wszystkie (?:powyższe|odpowiedzi)/i;
/** An option that says none of the others, in the languages of the reader; from memory. */
export const NONE_ABOVE =
  /^none of (?:the above|these|them)\b|^keine (?:der genannten|antwort)|^ninguna de las anteriores|^aucune de ces réponses|^nenhuma das anteriores|^nessuna delle precedenti|^geen van bovenstaande|^żadna z powyższych/i;

// From memory, in the languages of the reader.
/** A word that leaves no exception, in the languages of the reader; from memory. */
export const ABSOLUTE =
  /(?<![\p{L}])(?:always|never|(?<!at )all(?!['’])|none|only(?! (?:at|if|when|in|on|for|after|before|by|from|to)(?![\p{L}])|[.!]?$)|every(?! (?:day|week|month|year|hour|minute|morning|evening|time|other|few|two|second|\d)(?![\p{L}]))|everyone|nobody|completely|impossible|immer|nie|niemals|alle|keine|nur|siempre|nunca|todos|jamás|toujours|jamais|tous|sempre|mai|nessuno|nunca|altijd|nooit|zawsze|nigdy)(?![\p{L}])/iu;

/** The value of an option that is a number with or without its unit; null for any other. */
export const optionValue = (o: Option): number | null => parseNumber(plainOf(o.content).replace(/^[€$£]\s?|\s?(?:°\s?[CF]|[\p{L}µ%€$£²³/]{1,6})$/gu, ''));
