/** What stands in the question itself. */
import { guideline, type Rule } from '../finding.js';
import { plainOf } from '../words.js';

const NEGATIVE =
  /(?<![\p{L}'’])(not|never|except|isn['’]t|aren['’]t|doesn['’]t|nicht|kein\p{Ll}*|außer|no|excepto|salvo|pas|sauf|não|exceto|non|tranne|niet|geen|behalve|nie|oprócz|не|кроме|крім|değil(?:dir)?|hariç)(?![\p{L}])/u;
/** A negative word counts in the sentence that asks; Spanish and Portuguese "no" only before a verb is hard to tell, so only capitals are looked for there. */
export const negativeStem: Rule = {
  code: 'negative-not-stressed',
  name: 'A negative word that is easily missed',
  why: 'Who reads fast misses “not” and answers the opposite. Ask positively, or write the word in capitals or bold.',
  source: guideline(17),
  ofItem(item) {
    if (!('options' in item)) return [];
    const sentences = plainOf(item.stem).split(/(?<=[.!])\s+/);
    const asks = sentences[sentences.length - 1] ?? '';
    const m = NEGATIVE.exec(asks);
    // "no" is Spanish and Portuguese for not, and English for none: only before a verb does it turn a question round
    if (!m || (m[1] === 'no' && !/(?<![\p{L}])no\s+(?:es|son|se|tiene|hay|debe|puede|contiene)(?![\p{L}])/u.test(asks))) return [];
    const word = m[1] ?? '';
    const stressed = new RegExp(`<(?:strong|em|u)>[^<]*${word}[^<]*</`, 'iu').test(item.stem);
    if (stressed || /\b(?:whether or|or) not\b|not only/i.test(asks)) return [];
    const at = item.stem.lastIndexOf(word);
    const loud = at < 0 ? null : `${item.stem.slice(0, at)}${word.toUpperCase()}${item.stem.slice(at + word.length)}`;
    return [
      {
        severity: 'note',
        place: 'stem',
        message: `“${word}” turns the question round, and nothing stresses it.`,
        ...(loud !== null && { fix: { label: `Write “${word.toUpperCase()}”`, operations: [{ type: 'change' as const, id: item.id, set: { stem: loud } }] } }),
      },
    ];
  },
};

const LEFT_IN =
  /(?<![\p{L}])(?:correct answer|right answer|answer key|ans(?:wer)?|richtige antwort|lösung|respuesta correcta|bonne réponse|resposta correta|risposta corretta|juist antwoord|poprawna odpowiedź|правильный ответ|правильна відповідь|doğru cevap)\s*[:=]\s*\S|\((?:correct|right answer|richtig|correcta|juste)\)|[✓✔✅]\s*$/iu;
export const answerLeftIn: Rule = {
  code: 'answer-left-in',
  name: 'The answer stands in the text',
  why: 'What marked the key in the draft would be read by learners.',
  source: 'Common practice, no source',
  ofItem(item) {
    const places = [
      { text: plainOf(item.stem), option: undefined as string | undefined },
      ...('options' in item ? item.options.map((o) => ({ text: plainOf(o.content), option: o.id })) : []),
    ];
    return places.flatMap(({ text, option }) => {
      const m = LEFT_IN.exec(text);
      return m
        ? [
            {
              severity: 'error' as const,
              place: option ? ('options' as const) : ('stem' as const),
              ...(option && { option }),
              message: `“${m[0].slice(0, 40)}” would show learners the answer.`,
            },
          ]
        : [];
    });
  },
};
