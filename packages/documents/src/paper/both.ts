/** The questions, then the key on a page of its own. */
import { keyPaper, type Paper, type QuizSet, questionPaper } from '@zakuska/core';

/** Both papers of a set as one. */
export function bothPapers(set: QuizSet): Paper {
  const [questions, key] = [questionPaper(set), keyPaper(set)];
  return { ...questions, pieces: [...questions.pieces, { is: 'page' }, ...key.pieces] };
}
