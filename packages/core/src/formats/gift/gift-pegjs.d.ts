declare module 'gift-pegjs' {
  export interface GiftText {
    format: string;
    text: string;
  }
  export interface GiftQuestion {
    type: string;
    title: string | null;
    id: string | null;
    stem: GiftText;
    choices?: { isCorrect: boolean | null; weight: number | null; text: GiftText; feedback: GiftText | null }[];
    isTrue?: boolean;
    matchPairs?: { subquestion: GiftText; subanswer: string }[];
    globalFeedback?: GiftText | null;
  }
  const grammar: { parse(text: string): GiftQuestion[] };
  export default grammar;
}
