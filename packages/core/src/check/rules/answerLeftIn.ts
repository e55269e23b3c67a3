/** What marked the key in the draft still stands in the text. */
import { plainOf } from '../../item/richText.js';
import type { Rule } from '../finding.js';

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
  examples: {
    found: ['1. Rye is a grass. The right answer: grain, as on the card.\nWhich is it?\na) grain *\nb) fish'],
    fine: ['1. Which answer key fits the oven door?\na) the square one *\nb) the round one'],
  },
};
