/** Words that announce a key: "The best answer is: B", "Svar: B", "✅ Correct option – C". Hints by their words; how well they resolve decides. */
import { LETTERS_BEYOND_LATIN } from '../../language/labels.js';
import { ANSWER } from '../../language/words.js';

/** Key words beyond those of `words.ts`, other languages among them. From memory. */
const MORE =
  'best (?:answer|option|choice|response)|most likely answer|(?:correct|right|expected|official|accepted|final) (?:answers?|options?|choices?|responses?|letters?|alternatives?)|answer key|key answer|model key|verdict|r[äa]tt svar|riktig[et]? svar|korrekt svar|svar|oikea vastaus|vastaus|spr[aá]vn[aá] odpov[eě]ď|odpov[eě]ď|helyes v[aá]lasz|v[aá]lasz|r[aă]spuns(?: corect)?|(?:σωστή )?απάντηση|(?:верен )?отговор|(?:tačan |točan )?odgovor|jawaban|kunci|đáp án|정답|答案|正确答案|正解|答え|उत्तर|सही उत्तर|الإجابة(?: الصحيحة)?|الجواب|תשובה(?: נכונה)?|lösungsbuchstabe|corrig[ée]|correzione|opción correcta|alternativa corre[ct]+a|letra|rpta|resp|sol|vastus|atsakymas|atbilde';
const LEAD = "[\\s\\p{So}\\p{Sk}\\ufe0f✔✓→➡👉*•>»~–—-]*[(\\[{【（]?\\s*(?:(?:the|la|le|el|il|die|der|das|de|het|o|a|so the|so|our|my)\\s+|l['’])?";
const RIGHT =
  '(?:(?:correct\\p{L}*|right|goede?|juiste?|richtige?|bonne|juste|giusta|esatta|corretta|certa|correta|poprawn\\p{L}+|prawidłow\\p{L}+|правильн\\p{L}+|верн\\p{L}+|вірн\\p{L}+|doğru|rätt|rigtig\\p{L}*|riktig\\p{L}*|oikea|helyes|správn\\p{L}+)\\s+)?';
const IS = '(?:\\s+(?:is|are|es|ist|est|è|é|jest|war|sont|sind|то|это|är|er|on|je)(?![\\p{L}]))?';
const FOR = '(?:\\s+(?:to|for|zu|auf|à|de|la|del|di)\\s+(?:question|q|frage|aufgabe|pregunta|this|la question)\\s?(?:no\\.?\\s?)?\\d{0,3})?';
const SIGN = '(?:[】\\]][:：]?|[:：=]+|[-–—]{1,2}>?(?=\\s|[^\\s-]{1,3}$|\\p{Lu})|→|➡️?|⇒|=>|»|\\|)';
/** Words that announce a key at the start of a line, with what may stand in front of them. */
const WORDS = `${LEAD}${RIGHT}(?:${ANSWER}|${MORE})`;
const ANNOUNCE = new RegExp(`^${WORDS}${FOR}(?:\\s*\\((?:\\p{L}+\\s?){1,3}\\))?${FOR}${IS}\\s*${SIGN}\\s*`, 'iu');
const DOTTED = /^[\s*•-]*(?:ans|resp|rpta|r[ée]p|risp|antw|lös|odp|отв|відп|sol)\s?\.\s*:?\s*(?=\S)/iu;
const IS_QUOTED = new RegExp(`^${WORDS}${FOR}${IS.slice(0, -1)}\\s+(?=["'“«„‘]|(?:option\\s+)?[([]?[A-Ha-h1-9][).:]\\s)`, 'iu');
const SENTENCE = new RegExp(`^${WORDS}\\.\\s+(?=[\\p{Lu}\\d"“«(])`, 'iu');
const LABEL = `[([（]?(?:الف|[A-Ha-h1-9①-⑨${LETTERS_BEYOND_LATIN}])[)\\].）]?`;
const LABELS = `${LABEL}(?:\\s*(?:[,;&+/]|and|und|y|et|e|i|и|та|ve|en)\\s*${LABEL})*`;
const WORD_BRACKET = new RegExp(`^${WORDS}\\.?\\s*(?=[(\\[][A-Ha-h1-9][)\\]]\\s*\\S)`, 'iu');
const WORD_LABEL = new RegExp(`^${WORDS}(?:\\s+(?:is|es|ist|est|è|é|are|letter|option|buchstabe))*\\s+(?=${LABELS}\\s*[.!]?\\s*$)`, 'iu');
const TICKED = new RegExp(`^\\s*(?:[✅✔✓☑👉➡→⇒►🔑✳⭐🟢🟩]|=>|->|>>|=)\\ufe0f?\\s*(?=(?:option\\s+)?${LABELS}\\s*$)`, 'iu');
const RIGHT_LABEL = new RegExp(
  `^${LEAD}(?:right|correct|richtig|correcta|correta|juste|giusta|esatta|goed|juist|dobrze|верно|правильно|вірно|doğru|rätt)\\s*[:=]\\s*(?=(?:${LABELS}|true|false|richtig|falsch|verdadero|falso|vrai|faux|[TFVR])\\s*[.]?\\s*$)`,
  'iu',
);
const LABEL_IS = new RegExp(
  `^\\s*(?:option\\s+|answer\\s+)?${LABELS}\\s+(?:is|are|ist|sind|es|est|è|é)\\s+(?:the\\s+)?(?:correct|right|richtig|correct[ao]s?|juste|exact)`,
  'iu',
);

/** Where words are not parted by blanks, one behind the word for an answer is sign enough. */
const UNPARTED = /^[\s*•>-]*(?:答え|答案|正解|解答|정답|답)\s+(?=\S)/u;
const ALONE = new RegExp(`^${WORDS}\\s*$`, 'iu');
/** Whether words that announce a key stand alone on a line, without a sign behind. */
export const announcedAlone = (line: string): boolean => line.length < 60 && ALONE.test(line);

/** The column behind words that announce a key at the start of a line, or null. */
export function announced(line: string): number | null {
  const text = line.length > 160 ? line.slice(0, 160) : line;
  const sign = text.search(/[:：=|】\]→➡⇒»>–—-]|\.\s/u);
  if (sign >= 0 && sign < 70) {
    const m = ANNOUNCE.exec(text) ?? DOTTED.exec(text) ?? SENTENCE.exec(text);
    if (m) return m[0].length;
  }
  if (line.length < 90) {
    const m = UNPARTED.exec(text) ?? IS_QUOTED.exec(text) ?? WORD_BRACKET.exec(text) ?? WORD_LABEL.exec(text) ?? TICKED.exec(text) ?? RIGHT_LABEL.exec(text);
    if (m) return m[0].length;
    const whole = LABEL_IS.exec(text);
    if (whole) return text.length - text.trimStart().length;
  }
  return null;
}
