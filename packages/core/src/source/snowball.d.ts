/** snowball-stemmers ships no types. */
declare module 'snowball-stemmers' {
  const snowball: { newStemmer(algorithm: string): { stem(word: string): string }; algorithms(): string[] };
  export default snowball;
}
